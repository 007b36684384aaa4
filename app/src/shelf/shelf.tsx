/** All designs kept in this browser. */
import { counted } from '@nematos/core/measure/words';
import { Ellipsis } from 'lucide-react';
import { useEffect, useRef, useState, type ChangeEvent, type DragEvent } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import {
  useDuplicate,
  useNew,
  usePutBack,
  useRemove,
  useRename,
  useShelf,
  useShelfTrouble,
  useTakeIn,
} from '../data/queries';
import { notSaved } from '../data/storage';
import { arranged, type Order } from './arranged';
import { KeptAside, KeptHow } from './kept-how';
import type { Kept } from '../data/store';
import { Button, Choice, Logo, Menu, MenuLine, Sign } from '../ui/controls';
import { HelpSign } from '../ui/help-sign';
import { ThemeSign } from '../ui/theme-sign';
import { useTheme } from '../ui/theme';
import { readDesigns, sendShelf } from './take-in';
import { ReadingLine } from '../ui/reading';
import { usePicture } from './pictures';

/** All designs, with their pictures. */
export default function Shelf() {
  const shelf = useShelf();
  const { take, refusals, reading, cancel } = useTaking();
  const trouble = useShelfTrouble();
  const [lastRemoved, setLastRemoved] = useState<Kept>();
  const [over, setOver] = useState(false);

  useEffect(() => {
    document.title = 'Shelf – Nematos';
  }, []);

  const onDrop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    void take(event.dataTransfer.files);
  };

  const all = shelf.data ?? [];
  const standing = all.filter((kept) => !kept.removed);
  const removed = all.filter((kept) => kept.removed);
  const { shown, ...arranging } = useArranged(standing);

  return (
    <div
      className="flex h-full flex-col"
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={(event) => {
        if (event.currentTarget === event.target) setOver(false);
      }}
      onDrop={onDrop}
    >
      <Head standing={standing} onFiles={(files) => void take(files)} />
      <main
        className={`grow overflow-y-auto bg-sheet px-10 py-8 ${over ? 'ring-2 ring-thread ring-inset' : ''}`}
      >
        <div className="mx-auto max-w-5xl">
          <h1 className="font-serif text-[27px]">Shelf</h1>
          <p className="text-quiet">
            {standing.length
              ? 'Designs saved in this browser. Drop a design file anywhere to import it.'
              : shelf.isPending
                ? ' '
                : 'The shelf is empty. Begin a new design, or drop a design file here.'}
          </p>
          <KeptHow />
          {shelf.error && <Refusal says={`The shelf could not be read: ${String(shelf.error)}`} />}
          {trouble !== undefined && <Refusal says={`${trouble}.`} />}
          {refusals.map((refusal) => (
            <Refusal key={refusal} says={refusal} />
          ))}
          {reading !== undefined && <ReadingLine name={reading} onCancel={cancel} />}
          <KeptAside />
          {standing.length > 1 && <Arranging found={shown.length} {...arranging} />}
          <ul className="mt-6 grid grid-cols-[repeat(auto-fill,minmax(250px,1fr))] gap-x-7 gap-y-8">
            {shown.map((kept) => (
              <Card key={kept.id} kept={kept} onRemoved={() => setLastRemoved(kept)} />
            ))}
          </ul>
          {removed.length > 0 && <Removed removed={removed} />}
        </div>
      </main>
      {lastRemoved && removed.some((kept) => kept.id === lastRemoved.id) && (
        <JustRemoved kept={lastRemoved} onPutBack={() => setLastRemoved(undefined)} />
      )}
    </div>
  );
}

/** Designs as the address says: those that are looked for, in order; and how to say otherwise. */
function useArranged(standing: readonly Kept[]) {
  const [params, setParams] = useSearchParams();
  const search = params.get('find') ?? '';
  const order: Order = params.get('order') === 'name' ? 'name' : 'changed';
  const shown = arranged(standing, search, order);
  const put = (name: string, value: string) =>
    setParams(
      (before) => {
        const next = new URLSearchParams(before);
        if (value) next.set(name, value);
        else next.delete(name);
        return next;
      },
      { replace: true },
    );
  return {
    shown,
    search,
    order,
    onSearch: (text: string) => put('find', text),
    onOrder: (next: Order) => put('order', next === 'changed' ? '' : next),
  };
}

const ORDERS = [
  ['changed', 'last changed'],
  ['name', 'name'],
] as const;

/** Looks for designs, and puts them in order. */
function Arranging({
  search,
  order,
  found,
  onSearch,
  onOrder,
}: {
  search: string;
  order: Order;
  found: number;
  onSearch(text: string): void;
  onOrder(order: Order): void;
}) {
  return (
    <div className="mt-4 flex flex-wrap items-baseline gap-x-6 gap-y-2">
      <input
        type="search"
        aria-label="Find a design"
        placeholder="Find a design"
        value={search}
        onChange={(event) => onSearch(event.target.value)}
        className="w-64 rounded-md border border-hair bg-raised px-2.5 py-1 outline-offset-1"
      />
      <span className="text-quiet">
        Sort by <Choice name="Sort by" value={order} options={ORDERS} onChoose={onOrder} />
      </span>
      <span role="status" className="text-quiet">
        {search && (found ? `${counted(found, 'design')} found` : 'No design matches. Use fewer words.')}
      </span>
    </div>
  );
}

/** Takes files onto the shelf; of those that were taken last, what was refused, and why. */
function useTaking() {
  const takeIn = useTakeIn();
  const [refusals, setRefusals] = useState<string[]>([]);
  const [reading, setReading] = useState<string>();
  const take = async (files: Iterable<File>) => {
    const refused: string[] = [];
    for (const file of files) {
      setReading(file.name);
      const taken = await readDesigns(file);
      await takeIn.mutateAsync(taken.designs).catch((error: unknown) => {
        refused.push(`${file.name}: ${notSaved(error)}.`);
      });
      refused.push(...taken.refused.map(({ name, says }) => `${name}: ${says}`));
    }
    setReading(undefined);
    setRefusals(refused);
  };
  const cancel = () => void import('../worker/read-file').then(({ cancelReading }) => cancelReading());
  return { take, refusals, reading, cancel };
}

const Refusal = ({ says }: { says: string }) => (
  <p role="alert" className="mt-3 text-madder">
    {says}
  </p>
);

/** What can be done with the shelf as a whole. */
function Head({
  standing,
  onFiles,
}: {
  standing: readonly Kept[];
  onFiles: (files: readonly File[]) => void;
}) {
  const navigate = useNavigate();
  const create = useNew();
  const chooser = useRef<HTMLInputElement>(null);
  const onChoose = (event: ChangeEvent<HTMLInputElement>) => {
    onFiles([...(event.target.files ?? [])]);
    event.target.value = '';
  };
  const onNew = async () => {
    // Where it cannot be saved that is told above the shelf.
    const kept = await create.mutateAsync(undefined).catch(() => undefined);
    if (kept) await navigate(`/d/${kept.id}`);
  };
  return (
    <header className="flex h-11 shrink-0 items-center gap-4 border-b border-hair bg-page px-4">
      <span className="flex items-center gap-2 font-semibold">
        <Logo /> Nematos
      </span>
      <span className="text-quiet">Springs, pipes and wire forms from their figures</span>
      <span className="ml-auto" />
      <HelpSign />
      <ThemeSign />
      <Button
        disabled={!standing.length}
        title="All designs on the shelf in one zip, which can be imported again"
        onClick={() => void sendShelf(standing.map((kept) => kept.history.present))}
      >
        Export all designs
      </Button>
      <Button onClick={() => chooser.current?.click()}>Import</Button>
      <input
        ref={chooser}
        type="file"
        accept=".json,application/json,.zip,application/zip"
        multiple
        hidden
        onChange={onChoose}
        data-testid="take-in"
      />
      <Button strong onClick={() => void onNew()}>
        New design
      </Button>
    </header>
  );
}

/** What was taken off the shelf, while it can be put back. */
function Removed({ removed }: { removed: readonly Kept[] }) {
  const putBack = usePutBack();
  return (
    <section className="mt-12 border-t border-hair pt-3" aria-label="Taken off the shelf">
      <h2 className="text-[11px] font-semibold text-quiet">Taken off the shelf, kept for 30 days</h2>
      <ul className="mt-1 flex flex-wrap gap-x-6">
        {removed.map((kept) => (
          <li key={kept.id} className="py-0.5">
            {kept.history.present.name || 'Untitled'}{' '}
            <button
              type="button"
              className="rounded text-thread hover:underline"
              onClick={() => putBack.mutate(kept.id)}
            >
              Put back
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Says what was taken off last, and takes it back. */
function JustRemoved({ kept, onPutBack }: { kept: Kept; onPutBack(): void }) {
  const putBack = usePutBack();
  return (
    <div
      role="status"
      className="fixed bottom-5 left-1/2 flex -translate-x-1/2 items-center gap-4 rounded-md bg-ink px-4 py-2 text-page"
    >
      {kept.history.present.name || 'Untitled'} is off the shelf.
      <button
        type="button"
        className="font-semibold underline underline-offset-4"
        onClick={() => {
          putBack.mutate(kept.id);
          onPutBack();
        }}
      >
        Undo
      </button>
    </div>
  );
}

const DAY = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'long',
  hour: '2-digit',
  minute: '2-digit',
});

function Card({ kept, onRemoved }: { kept: Kept; onRemoved(): void }) {
  const theme = useTheme();
  const place = useRef<HTMLLIElement>(null);
  const picture = usePicture(kept, theme, place);
  const rename = useRename();
  const duplicate = useDuplicate();
  const remove = useRemove();
  const [naming, setNaming] = useState<string>();
  const design = kept.history.present;
  const name = design.name || 'Untitled';

  const finish = () => {
    const next = naming?.trim();
    if (next && next !== design.name) rename.mutate({ id: kept.id, name: next });
    setNaming(undefined);
  };
  return (
    <li ref={place} className="group relative" data-design={name}>
      <Link
        to={`/d/${kept.id}`}
        aria-label={`Open ${name}`}
        className="stage-ground block aspect-[7/5] overflow-hidden rounded-md border border-hair transition-colors hover:border-brass-line"
      >
        {picture ? (
          <img src={picture} alt="" className="size-full object-contain" />
        ) : (
          <span className="grid size-full place-items-center text-quiet">
            {design.steps.length ? '' : 'nothing made yet'}
          </span>
        )}
      </Link>
      <div className="mt-2 flex items-baseline gap-2">
        {naming === undefined ? (
          <Link to={`/d/${kept.id}`} tabIndex={-1} className="truncate font-serif text-[17px]">
            {name}
          </Link>
        ) : (
          <input
            autoFocus
            aria-label="Name of the design"
            maxLength={120}
            value={naming}
            className="editable grow font-serif text-[17px]"
            onFocus={(event) => event.currentTarget.select()}
            onChange={(event) => setNaming(event.target.value)}
            onBlur={finish}
            onKeyDown={(event) => {
              if (event.key === 'Enter') finish();
              if (event.key === 'Escape') setNaming(undefined);
            }}
          />
        )}
        <span className="ml-auto">
          <Menu
            align="end"
            trigger={
              <Sign name={`More about ${name}`} className="!size-6">
                <Ellipsis size={15} />
              </Sign>
            }
          >
            <MenuLine onSelect={() => setTimeout(() => setNaming(name), 60)}>Rename</MenuLine>
            <MenuLine onSelect={() => duplicate.mutate(design)}>Duplicate</MenuLine>
            <MenuLine
              onSelect={() => {
                remove.mutate(kept.id);
                onRemoved();
              }}
            >
              Take off the shelf
            </MenuLine>
          </Menu>
        </span>
      </div>
      <p className="truncate text-quiet">{design.note || counted(design.steps.length, 'step')}</p>
      <p className="text-xs text-quiet">changed {DAY.format(kept.changed)}</p>
    </li>
  );
}
