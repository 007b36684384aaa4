/** All designs kept in this browser. */
import { acceptOf } from '@nematos/core/exchange/formats';
import { counted } from '@nematos/core/measure/words';
import { LayoutGrid, List } from 'lucide-react';
import { useEffect, useRef, useState, type ChangeEvent, type DragEvent } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { useNew, usePutBack, useShelf, useShelfTrouble, useTakeIn } from '../data/queries';
import { notSaved } from '../data/storage';
import { allTags, arranged, type Order, type Shelved } from './arranged';
import { Card } from './card';
import { Recovery, StorageNote } from './storage-note';
import type { Kept } from '../data/store';
import { Button, Choice, Logo, Sign } from '../ui/controls';
import { HelpSign } from '../ui/help-sign';
import { ThemeSign } from '../ui/theme-sign';
import { readDesigns, exportShelf } from './import-files';
import { ReadingLine } from '../ui/reading';

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
        <div className="mx-auto max-w-5xl 2xl:max-w-7xl">
          <h1 className="font-serif text-[27px]">Shelf</h1>
          <p className="text-quiet">
            {standing.length
              ? 'Designs saved in this browser. Drop a design file anywhere to import it.'
              : shelf.isPending
                ? ' '
                : 'The shelf is empty. Begin a new design, or drop a design file here.'}
          </p>
          <StorageNote />
          {shelf.error && <Refusal says={`The shelf could not be read: ${String(shelf.error)}`} />}
          {trouble !== undefined && <Refusal says={`${trouble}.`} />}
          {refusals.map((refusal) => (
            <Refusal key={refusal} says={refusal} />
          ))}
          {reading !== undefined && <ReadingLine name={reading} onCancel={cancel} />}
          <Recovery />
          {standing.length > 1 && <Arranging {...arranging} tags={allTags(standing)} />}
          <Designs shown={shown} list={arranging.list} onRemoved={setLastRemoved} />
          {removed.length > 0 && <Removed removed={removed} />}
        </div>
      </main>
      {lastRemoved && removed.some((kept) => kept.id === lastRemoved.id) && (
        <JustRemoved kept={lastRemoved} onPutBack={() => setLastRemoved(undefined)} />
      )}
    </div>
  );
}

const ORDERS = [
  ['tag', 'tag'],
  ['changed', 'last changed'],
  ['name', 'name'],
] as const;

/** Designs under their headings, as cards or as a list. */
function Designs({
  shown,
  list,
  onRemoved,
}: {
  shown: readonly Shelved[];
  list: boolean;
  onRemoved(kept: Kept): void;
}) {
  return shown.map(({ heading, designs }) => (
    <section key={heading ?? ''} aria-label={heading ?? 'Designs'} className="mt-6">
      {heading !== undefined && <h2 className="mb-3 border-b border-hair pb-1 font-semibold">{heading}</h2>}
      <ul
        className={
          list
            ? 'divide-y divide-hair'
            : 'grid grid-cols-[repeat(auto-fill,minmax(250px,1fr))] gap-x-7 gap-y-8'
        }
      >
        {designs.map((kept) => (
          <Card key={kept.id} kept={kept} list={list} onRemoved={() => onRemoved(kept)} />
        ))}
      </ul>
    </section>
  ));
}

/** Designs as the address says: those that are looked for, in order; and how to say otherwise. */
function useArranged(standing: readonly Kept[]) {
  const [params, setParams] = useSearchParams();
  const search = params.get('find') ?? '';
  const tag = params.get('tag') ?? '';
  const order: Order = ORDERS.find(([one]) => one === params.get('order'))?.[0] ?? 'tag';
  const shown = arranged(standing, { search, tag, order });
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
    tag,
    order,
    list: params.get('view') === 'list',
    found: shown.reduce((sum, { designs }) => sum + designs.length, 0),
    onSearch: (text: string) => put('find', text),
    onTag: (next: string) => put('tag', next),
    onOrder: (next: Order) => put('order', next === 'tag' ? '' : next),
    onList: (on: boolean) => put('view', on ? 'list' : ''),
  };
}

/** Looks for designs, and puts them in order. */
function Arranging({
  search,
  tag,
  tags,
  order,
  list,
  found,
  onSearch,
  onTag,
  onOrder,
  onList,
}: Omit<ReturnType<typeof useArranged>, 'shown'> & { tags: readonly string[] }) {
  return (
    <>
      <div className="mt-4 flex flex-wrap items-center gap-x-6 gap-y-2">
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
        <span role="group" aria-label="View" className="flex">
          <Sign
            name="Grid"
            aria-pressed={!list}
            className={list ? '' : 'text-ink'}
            onClick={() => onList(false)}
          >
            <LayoutGrid size={15} />
          </Sign>
          <Sign
            name="List"
            aria-pressed={list}
            className={list ? 'text-ink' : ''}
            onClick={() => onList(true)}
          >
            <List size={15} />
          </Sign>
        </span>
        <span role="status" className="text-quiet">
          {search && (found ? `${counted(found, 'design')} found` : 'No design matches. Use fewer words.')}
        </span>
      </div>
      {tags.length > 0 && (
        <div role="group" aria-label="Tags" className="mt-3 flex flex-wrap gap-1.5">
          {['', ...tags].map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={tag === one}
              onClick={() => onTag(one)}
              className={`rounded-full border px-2.5 py-0.5 text-[12.5px] ${tag === one ? 'border-thread bg-wash font-medium' : 'border-hair bg-raised text-quiet hover:text-ink'}`}
            >
              {one || 'All'}
            </button>
          ))}
        </div>
      )}
    </>
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
        onClick={() => void exportShelf(standing.map((kept) => kept.history.present))}
      >
        Export all designs
      </Button>
      <Button onClick={() => chooser.current?.click()}>Import</Button>
      <input
        ref={chooser}
        type="file"
        accept={acceptOf('design', 'designs', 'part', 'outline')}
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
