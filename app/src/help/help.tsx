/** Help at /help: terms, figures, steps, keys, files, and what is exact; searchable. */
import { Search } from 'lucide-react';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { Button, Logo } from '../ui/controls';
import { ThemeSign } from '../ui/theme-sign';
import { pictureOf } from '../workbench/gallery/pictures';
import { found, HELP, type Entry, type Section } from './entries';

/** The page. */
export default function Help() {
  const [asked, setAsked] = useState('');
  const navigate = useNavigate();
  const sections = found(asked);
  return (
    <div className="flex h-full flex-col">
      <header className="flex h-11 shrink-0 items-center gap-4 border-b border-hair bg-page px-4">
        <Link to="/" className="flex items-center gap-2 rounded font-semibold">
          <Logo /> Nematos
        </Link>
        <span className="text-quiet">Help</span>
        <span className="ml-auto" />
        <ThemeSign />
        <Button onClick={() => (history.length > 1 ? void navigate(-1) : void navigate('/'))}>Back</Button>
      </header>
      <div className="flex min-h-0 grow">
        <nav aria-label="Sections" className="w-60 shrink-0 overflow-y-auto border-r border-hair px-4 py-6">
          <ul className="space-y-1">
            {HELP.map(({ title }) => (
              <li key={title}>
                <a href={`#${anchor(title)}`} className="rounded text-quiet hover:text-ink">
                  {title}
                </a>
              </li>
            ))}
          </ul>
        </nav>
        <main className="min-w-0 grow overflow-y-auto px-10 py-6" tabIndex={-1}>
          <h1 className="font-serif text-[27px]">Help</h1>
          <label className="mt-3 flex h-9 max-w-md items-center gap-2 rounded-md border border-hair bg-sheet px-3 focus-within:border-thread">
            <Search size={15} className="text-quiet" aria-hidden />
            <input
              type="search"
              autoFocus
              aria-label="Search the help"
              placeholder="Search: gauge, pitch, STL …"
              value={asked}
              onChange={(event) => setAsked(event.target.value)}
              className="w-full bg-transparent outline-none"
            />
          </label>
          {sections.length === 0 && (
            <p role="status" className="mt-6 text-quiet">
              Nothing matches “{asked}”. Try another word.
            </p>
          )}
          {sections.map((section) => (
            <HelpSection key={section.title} section={section} />
          ))}
        </main>
      </div>
    </div>
  );
}

const anchor = (title: string): string => title.toLowerCase().replaceAll(/[^a-z]+/g, '-');

function HelpSection({ section: { title, entries } }: { section: Section }) {
  return (
    <section id={anchor(title)} aria-label={title} className="mt-8 max-w-4xl scroll-mt-4">
      <h2 className="border-b border-hair pb-1 text-[15px] font-semibold">{title}</h2>
      <dl className="mt-2 grid grid-cols-[170px_1fr] gap-x-6 gap-y-2.5">
        {entries.map((entry) => (
          <HelpEntry key={entry.title} entry={entry} />
        ))}
      </dl>
    </section>
  );
}

function HelpEntry({ entry: { title, text, offer, facts = [] } }: { entry: Entry }) {
  const picture = offer && pictureOf(offer);
  return (
    <>
      <dt className="font-serif text-[15px]">{title}</dt>
      <dd className="flex gap-4">
        <span className="min-w-0 grow">
          {text}
          {facts.map((fact) => (
            <span key={fact} className="block text-[12.5px] text-quiet">
              {fact}
            </span>
          ))}
        </span>
        {picture && (
          <img src={picture} alt="" loading="lazy" className="h-16 w-[90px] shrink-0 object-contain" />
        )}
      </dd>
    </>
  );
}
