import { CircleHelp } from 'lucide-react';
import { Link } from 'react-router';

/** Leads to the help page. */
export function HelpSign() {
  return (
    <Link
      to="/help"
      aria-label="Help"
      title="Help (key ?)"
      className="grid size-7 place-items-center rounded text-quiet hover:bg-hover hover:text-ink"
    >
      <CircleHelp size={15} aria-hidden />
    </Link>
  );
}
