/** A page that says why there is nothing else on it, and the way back. */
import { Link } from 'react-router';

/** Its heading, and what it may come from. */
export function Page({ title, text }: { title: string; text: string }) {
  return (
    <main className="grid h-full place-items-center text-center">
      <div>
        <h1 className="font-serif text-2xl">{title}</h1>
        <p className="mt-2 text-quiet">{text}</p>
        <Link to="/" className="mt-4 inline-block text-thread underline underline-offset-4">
          To the shelf
        </Link>
      </div>
    </main>
  );
}
