/** "What comes next?": new steps, found by typing what the trade calls them. */
import { Command } from 'cmdk';
import { useRef, useState, type KeyboardEvent } from 'react';
import { flushSync } from 'react-dom';
import { addStep, stepOf } from '@nematos/core/design/edit';
import { KINDS } from '@nematos/core/design/registry';
import { wantedAt, type AnyKind } from '@nematos/core/kind/kind';
import type { Design } from '@nematos/core/design/schema';
import { STARTERS } from '@nematos/core/design/starters';
import { PAPER } from '../../ui/controls';
import { useBench, useBenchStore, useOfDesign, type BenchStore } from '../../bench/bench';
import { selecting, shownCount } from '../../bench/selection';
import { ask, leave, nextOf } from '../../worker/client';

interface Offer {
  readonly name: string;
  readonly says: string;
  readonly words: readonly string[];
  readonly add: (draft: Design, at: number) => { first: string; last: string };
}

const OFFERS: readonly Offer[] = [
  ...STARTERS.map((starter) => ({ ...starter, words: [starter.name.toLowerCase(), ...starter.words] })),
  ...Object.values(KINDS).map((kind): Offer => ({
    name: kind.noun.replace(/^./, (letter) => letter.toUpperCase()),
    says: saysOf(kind),
    words: [kind.title.toLowerCase(), ...kind.words],
    add: (draft, at) => {
      const id = addStep(draft, kind.kind, at);
      return { first: id, last: id };
    },
  })),
];

/** What it makes, and of what. */
function saysOf({ yields, inputs }: AnyKind): string {
  const takes = (type: string) =>
    Object.values(inputs).some((input) => !input.optional && wantedAt(input) === type);
  if (typeof yields !== 'string') return 'a path or body, changed';
  switch (yields) {
    case 'path':
      return takes('path') ? 'a path from a path' : 'a path';
    case 'section':
      return 'a section';
    case 'body':
      return takes('body')
        ? 'a body of bodies'
        : takes('path')
          ? 'a section carried along a path'
          : takes('section')
            ? 'a body of a section'
            : 'a body';
    case 'duty':
      return 'what a body has to do';
    case 'measure':
      return 'kept, held against what is wanted';
  }
}

/** How well an offer answers what is asked for: 0 not at all, 1 best. Its words begin with its name and its title. */
function answers(name: string, words: readonly string[], search: string): number {
  const asked = search.toLowerCase().trim();
  const said = words.join(' ').toLowerCase();
  if (!asked.split(/\s+/).every((part) => said.includes(part))) return 0;
  // What is called so stands before what is only known by the word.
  if (name.toLowerCase().startsWith(asked) || words[1] === asked) return 1;
  return words.includes(asked) ? 0.8 : 0.5;
}

/** The offer that stands first in the list. */
function bestFor(typed: string): Offer | undefined {
  let [best, most] = [undefined as Offer | undefined, 0];
  for (const offer of OFFERS) {
    const mine = answers(offer.name, [offer.name, ...offer.words], typed);
    if (mine > most) [best, most] = [offer, mine];
  }
  return best;
}

/** Adds what is offered behind so many steps, and chooses it. Yields the first step of it. */
function addOffered(store: BenchStore, offer: Offer, at: number): string {
  let added = { first: '', last: '' };
  const says = `Add ${offer.name.toLowerCase()}`;
  const group = crypto.randomUUID();
  store.getState().edit(
    says,
    (draft) => {
      added = offer.add(draft, at);
    },
    group,
  );
  void startBetter(store, added.last, says, group);
  const { view, history, look } = store.getState();
  const count = history.present.steps.findIndex((step) => step.id === added.last) + 1;
  look({ ...selecting(added.last), ...(view.needle !== undefined && { needle: count }) });
  return added.first;
}

/** What was added begins with what suits its inputs, or with others where it cannot be made from those: one edit with the adding. */
async function startBetter(store: BenchStore, id: string, says: string, group: string): Promise<void> {
  const asked = store.getState().history.present;
  const session = `start ${group}`;
  const start = await ask((geometry) => geometry.betterStart(asked, id, nextOf(session))).catch(
    () => undefined,
  );
  leave(session);
  const [then, now] = [asked, store.getState().history.present].map(({ steps }) =>
    steps.find((step) => step.id === id),
  );
  // Who was faster than this keeps what they did.
  if (!start || !now || now !== then) return;
  store.getState().edit(
    says,
    (draft) => {
      const step = stepOf(draft, id);
      if (start.from) step.from = structuredClone(start.from);
      Object.assign(step.set, start.set);
    },
    group,
  );
}

/** The line at the end of the sheet: what is typed there is found and becomes the next step. */
export function AddLine() {
  const store = useBenchStore();
  const empty = useOfDesign((design) => design.steps.length === 0);
  const at = useBench(shownCount);
  const [typed, setTyped] = useState('');
  const [open, setOpen] = useState(false);
  const moved = useRef(false);

  const choose = (offer: Offer) => {
    // At once, not in the next frame: who types on must find the new field under the caret.
    const first = flushSync(() => {
      setTyped('');
      setOpen(false);
      return addOffered(store, offer, at);
    });
    // The first figure of its sentence; where there is none, the first word that can be chosen.
    const sentence = document.querySelector(`[data-step="${first}"] p`);
    (
      sentence?.querySelector<HTMLElement>('input[data-field]') ??
      sentence?.querySelector<HTMLElement>('[data-field]')
    )?.focus();
  };

  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'Escape') {
      setOpen(false);
      (document.activeElement as HTMLElement | null)?.blur();
    } else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      moved.current = true;
      setOpen(true);
    }
    // Who types through the figures ends here: one Enter too many must not add anything.
    else if (event.key === 'Enter' && !open) event.preventDefault();
    // The list marks its first line a moment after a keystroke; who types fast means that line all the same.
    else if (event.key === 'Enter' && !moved.current && typed.trim()) {
      event.preventDefault();
      const best = bestFor(typed);
      if (best) choose(best);
    }
  };

  return (
    <Command
      label="What comes next?"
      className="relative mt-6"
      filter={(value, search, keywords) => answers(value, keywords ?? [], search)}
      onKeyDown={onKeyDown}
    >
      <Command.Input
        data-next
        data-add
        autoFocus={empty}
        value={typed}
        onValueChange={(value) => {
          moved.current = false;
          setTyped(value);
          setOpen(true);
        }}
        onFocus={() => setOpen(empty)}
        onPointerDown={() => setOpen(true)}
        onBlur={() => setOpen(false)}
        placeholder={
          empty ? 'What is to be made?  spring, run, loop …' : 'What comes next?  winding, wrap, sweep …'
        }
        className="h-9 w-full rounded-md border border-dashed border-brass-line bg-transparent px-3 text-[13px] focus:border-solid focus:border-thread focus:outline-none"
      />
      <Offers open={open} onChoose={choose} />
    </Command>
  );
}

/** All that is offered, as far as it answers what is typed. */
function Offers({ open, onChoose }: { open: boolean; onChoose(offer: Offer): void }) {
  return (
    <Command.List
      hidden={!open}
      className={`${PAPER} absolute inset-x-0 top-10 z-30 max-h-72 overflow-auto`}
      onPointerDown={(event) => event.preventDefault()}
    >
      <Command.Empty className="px-2.5 py-2 text-quiet">
        Nothing is called that here. Try “coil”, “wire” or “spring”.
      </Command.Empty>
      {OFFERS.map((offer) => (
        <Command.Item
          key={offer.name}
          value={offer.name}
          keywords={[offer.name, ...offer.words]}
          onSelect={() => onChoose(offer)}
          className="flex cursor-pointer items-baseline gap-3 rounded px-2.5 py-1.5 data-[selected=true]:bg-hover"
        >
          <span className="font-serif text-[15px]">{offer.name}</span>
          <span className="ml-auto text-xs text-quiet">{offer.says}</span>
        </Command.Item>
      ))}
    </Command.List>
  );
}
