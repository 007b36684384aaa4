/** The shelf as queries: what is kept, and the ways to change it. */
import { useMutation, useMutationState, useQuery, useQueryClient } from '@tanstack/react-query';
import { edit } from '@nematos/core/design/history';
import { emptyDesign, type Design } from '@nematos/core/design/schema';
import { notSaved, storageState } from './storage';
import { amend, dropAside, fetchAside, fetchShelf, putBack, putOnShelf, type Kept } from './store';

const SHELF = ['shelf'];

/** Demo designs come with their own chunk, so that a filled shelf need not load them. */
async function filledShelf(): Promise<Kept[]> {
  const shelf = await fetchShelf();
  if (shelf.length) return shelf;
  await (await import('./demo')).putDemo();
  return fetchShelf();
}

/** All designs on the shelf; the demo designs where there are none. */
export const useShelf = () => useQuery({ queryKey: SHELF, queryFn: filledShelf });

const ASIDE = ['aside'];
/** Unreadable records, moved to recovery. */
export const useAside = () => {
  const { dataUpdatedAt } = useShelf();
  return useQuery({ queryKey: [...ASIDE, dataUpdatedAt], queryFn: fetchAside });
};

/** How safely this browser keeps what is on the shelf. */
export const useStorage = () => useQuery({ queryKey: ['storage'], queryFn: storageState });

function useShelfChange<A, R>(change: (argument: A) => Promise<R>) {
  const client = useQueryClient();
  return useMutation({ mutationFn: change, onSettled: () => client.invalidateQueries({ queryKey: SHELF }) });
}

/** What the last change of the shelf failed with, until one is made. */
export const useShelfTrouble = (): string | undefined => {
  const last = useMutationState({ select: ({ state }) => state }).at(-1);
  return last?.status === 'error' ? notSaved(last.error) : undefined;
};

/** Begins an empty design. */
export const useNew = () => useShelfChange(() => putOnShelf(emptyDesign('Untitled')));
/** Puts designs that came from a file on the shelf, which is read again once they are all there. */
export const useTakeIn = () =>
  useShelfChange(async (designs: readonly Design[]) => {
    for (const design of designs) await putOnShelf(design);
  });
/** Puts a copy of a design on the shelf. */
export const useDuplicate = () =>
  useShelfChange((design: Design) => putOnShelf({ ...design, name: `${design.name} copy` }));
/** Gives a design another name. */
export const useRename = () =>
  useShelfChange(({ id, name }: { id: string; name: string }) =>
    amend(id, (kept) => ({
      ...kept,
      history: edit(kept.history, 'Rename', (draft) => {
        draft.name = name;
      }),
      changed: Date.now(),
    })),
  );
/** Gives a design other tags. */
export const useSetTags = () =>
  useShelfChange(({ id, tags }: { id: string; tags: string[] }) =>
    amend(id, (kept) => ({
      ...kept,
      history: edit(kept.history, 'Change the tags', (draft) => {
        if (tags.length) draft.tags = tags;
        else delete draft.tags;
      }),
    })),
  );
/** Takes a design off the shelf; it can be put back for a while. */
export const useRemove = () =>
  useShelfChange((id: string) => amend(id, (kept) => ({ ...kept, removed: Date.now() })));
/** Puts a design that was taken off back on the shelf. */
export const usePutBack = () => useShelfChange(putBack);
/** Takes away for good what could not be read. */
export const useDropAside = () => useShelfChange(dropAside);
