/** The bar of the workbench: name, unit, undo and redo, whether it is saved, export. */
import { useEffect, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { keepVariant, takeVariant } from '@nematos/core/design/variants';
import { fileName } from '@nematos/core/exchange/file-name';
import { writeDesign } from '@nematos/core/exchange/design-json';
import { notSaved } from '../data/storage';
import { putBack, putOnShelf } from '../data/store';
import { save } from '../ui/save';
import { Button, Logo, Menu, MenuLine } from '../ui/controls';
import { HelpSign } from '../ui/help-sign';
import { ThemeSign } from '../ui/theme-sign';
import { useBench, useBenchStore, useOfDesign } from '../bench/bench';
import { ExportMenu } from './export-menu';
import { UnitsGroup } from './units-group';
import type { Engine } from '../render/engine';

const SAVED = {
  saved: 'Saved',
  saving: 'Saving …',
  full: "Not saved: the browser's storage is full",
  failed: "Not saved: the browser's storage is full or not available",
  none: "Not saved: the browser's storage is not available",
};

/** Shows whether the design is saved, and offers it as a file when it is not. */
function Status() {
  const store = useBenchStore();
  const saved = useBench((bench) => bench.saved);
  const bad = saved !== 'saved' && saved !== 'saving';
  const exportDesign = () => {
    const design = store.getState().history.present;
    save(new Blob([writeDesign(design)], { type: 'application/json' }), fileName(design.name, 'json'));
  };
  return (
    <span className="ml-auto flex min-w-0 items-center gap-2">
      <span
        role="status"
        title={bad ? 'It is tried again every few seconds. Export the design before you leave.' : undefined}
        className={bad ? 'truncate text-madder' : 'text-quiet'}
      >
        {SAVED[saved]}
      </span>
      {bad && <Button onClick={exportDesign}>Export design</Button>}
    </span>
  );
}

/** Tells that the design is off the shelf, where it is, and puts it back. */
function OffShelf() {
  const store = useBenchStore();
  const removed = useBench((bench) => bench.removed);
  const [trouble, setTrouble] = useState<string>();
  if (!removed) return null;
  const restore = () =>
    putBack(store.getState().id).then(
      () => store.setState({ removed: false }),
      (error: unknown) => setTrouble(notSaved(error)),
    );
  return (
    <div
      role="status"
      className="flex shrink-0 items-center gap-3 border-b border-hair bg-raised px-4 py-1.5 print:hidden"
    >
      This design is off the shelf. It is deleted 30 days after its last change.
      <Button onClick={() => void restore()}>Put back on the shelf</Button>
      {trouble !== undefined && <span className="text-madder">{trouble}</span>}
    </div>
  );
}

/** Keeps the figures as they are, and leads to where they are compared. */
function Variants() {
  const store = useBenchStore();
  const variants = useOfDesign((design) => design.variants);
  const compare = useBench((bench) => bench.view.compare ?? false);
  const { edit, look } = store.getState();
  const keep = () =>
    edit('Keep a variant', (draft) => {
      keepVariant(draft, `Variant ${(draft.variants?.length ?? 0) + 1}`);
    });
  return (
    <Menu align="end" trigger={<Button aria-pressed={compare}>Variants</Button>}>
      <MenuLine onSelect={keep} note="all givens and steps">
        Keep the figures as they are
      </MenuLine>
      <MenuLine disabled={!variants?.length} onSelect={() => look({ compare: true })}>
        Compare
      </MenuLine>
      {variants?.map(({ id, name }) => (
        <MenuLine
          key={id}
          onSelect={() => edit(`Take over ${name}`, (draft) => takeVariant(draft, id))}
          note="take over"
        >
          {name}
        </MenuLine>
      ))}
    </Menu>
  );
}

/** Puts what is only looked at on the shelf, to be worked on. */
function TakeCopy() {
  const store = useBenchStore();
  const navigate = useNavigate();
  const [failed, setFailed] = useState<string>();
  const take = () =>
    putOnShelf(store.getState().history.present).then(
      ({ id }) => navigate(`/d/${id}`),
      (error: unknown) => setFailed(notSaved(error)),
    );
  return (
    <Button strong onClick={() => void take()}>
      {failed ?? 'Take a copy'}
    </Button>
  );
}

/** Ctrl Z and Ctrl Y, wherever the focus is. */
function useUndoKeys() {
  const store = useBenchStore();
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.altKey) return;
      const key = event.key.toLowerCase();
      if (key !== 'z' && key !== 'y') return;
      event.preventDefault();
      if (key === 'y' || event.shiftKey) store.getState().redo();
      else store.getState().undo();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [store]);
}

/** The bar above the workbench: the way back, the unit, undo, export. */
export function Bar({ engine }: { engine: Engine | undefined }) {
  const store = useBenchStore();
  const name = useOfDesign((design) => design.name);
  const reading = useBench((bench) => bench.reading);
  const before = useBench((bench) => bench.history.past.at(-1)?.says);
  const after = useBench((bench) => bench.history.future.at(-1)?.says);

  useUndoKeys();

  return (
    <>
      <header className="flex h-11 shrink-0 print:hidden items-center gap-4 border-b border-hair bg-page px-4">
        <Link to="/" className="flex items-center gap-2 rounded font-semibold">
          <Logo /> Nematos
        </Link>
        <nav aria-label="Place" className="flex min-w-0 items-center gap-2">
          <Link to="/" className="rounded text-quiet hover:text-ink">
            Shelf
          </Link>
          <span className="text-quiet">/</span>
          <span className="truncate font-semibold">{name || 'Untitled'}</span>
        </nav>
        {reading ? (
          <span role="status" className="ml-auto text-quiet">
            Read only
          </span>
        ) : (
          <Status />
        )}
        {reading && <TakeCopy />}
        <UnitsGroup />
        {!reading && <Variants />}
        <HelpSign />
        <ThemeSign />
        <Button
          disabled={!before}
          title={before && `${before} (Ctrl Z)`}
          onClick={() => store.getState().undo()}
        >
          Undo
        </Button>
        <Button
          disabled={!after}
          title={after && `${after} (Ctrl Shift Z)`}
          onClick={() => store.getState().redo()}
        >
          Redo
        </Button>
        <ExportMenu engine={engine} />
      </header>
      {!reading && <OffShelf />}
    </>
  );
}
