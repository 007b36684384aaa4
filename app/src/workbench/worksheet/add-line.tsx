/** "What comes next?": new steps, found by typing what the trade calls them. */
import { Command } from 'cmdk';
import { GROUPS } from '@nematos/core/design/starters';
import { stepName } from '@nematos/core/design/edit';
import { answering, nextOffers, OFFERS, STEP_GROUPS, type Offer } from '@nematos/core/design/offers';
import { useLayoutEffect, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { PAPER } from '../../ui/controls';
import { useBench, useBenchStore, useOfDesign } from '../../bench/bench';
import { shownCount } from '../../bench/selection';
import { pictureOf } from '../gallery/pictures';
import { addAndBegin } from './add-offered';

/** The line at the end of the sheet: what is typed there is found and becomes the next step. */
export function AddLine() {
  const store = useBenchStore();
  const empty = useOfDesign((design) => design.steps.length === 0);
  const at = useBench(shownCount);
  const [typed, setTyped] = useState('');
  const [open, setOpen] = useState(false);
  const moved = useRef(false);

  const choose = (offer: Offer) =>
    addAndBegin(store, offer, at, () => {
      setTyped('');
      setOpen(false);
    });

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
      const [best] = answering(typed);
      if (best) choose(best);
    }
  };

  return (
    <Command label="What comes next?" className="relative mt-6" shouldFilter={false} onKeyDown={onKeyDown}>
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
        onPointerDown={() => setOpen(true)}
        onBlur={() => setOpen(false)}
        placeholder={
          empty ? 'What is to be made?  spring, run, loop …' : 'What comes next?  winding, wrap, sweep …'
        }
        className="h-9 w-full rounded-md border border-dashed border-brass-line bg-transparent px-3 text-[13px] focus:border-solid focus:border-thread focus:outline-none"
      />
      <Offers open={open} typed={typed} onChoose={choose} />
    </Command>
  );
}

/** Before the name of an offer that stands in the list a second time, as what may come next. */
const NEXT = 'next: ';

interface OffersProps {
  readonly open: boolean;
  readonly typed: string;
  onChoose(offer: Offer): void;
}

/** What answers what is typed, the best first; while nothing is, all in groups, what takes the last step before the others. */
function Offers({ open, typed, onChoose }: OffersProps) {
  const list = useRef<HTMLDivElement>(null);
  const [above, setAbove] = useState(false);
  // Above the line where there is no room below it.
  useLayoutEffect(() => {
    const line = list.current?.parentElement?.getBoundingClientRect();
    if (open && line) setAbove(innerHeight - line.bottom < ROOM && line.top > innerHeight - line.bottom);
  }, [open]);
  return (
    <Command.List
      ref={list}
      hidden={!open}
      className={`${PAPER} absolute inset-x-0 ${above ? 'bottom-10' : 'top-10'} z-30 max-h-96 overflow-auto`}
      onPointerDown={(event) => event.preventDefault()}
    >
      <Command.Empty className="px-2.5 py-2 text-quiet">
        Nothing is called that here. Try “coil”, “wire” or “spring”.
      </Command.Empty>
      {!open ? null : typed.trim() ? (
        answering(typed).map((offer) => <Line key={offer.name} offer={offer} onChoose={onChoose} />)
      ) : (
        <InGroups onChoose={onChoose} />
      )}
    </Command.List>
  );
}

/** Height that the list may take, px. */
const ROOM = 400;

function InGroups({ onChoose }: Pick<OffersProps, 'onChoose'>) {
  const at = useBench(shownCount);
  const steps = useOfDesign((design) => design.steps).slice(0, at);
  const next = nextOffers(steps);
  return (
    <>
      {next && (
        <Group name={`From ${stepName(next.from)}`}>
          {next.offers.map((offer) => (
            <Line key={offer.name} offer={offer} before={NEXT} onChoose={onChoose} />
          ))}
        </Group>
      )}
      {[...GROUPS, ...STEP_GROUPS].map((group) => (
        <Group key={group} name={group}>
          {OFFERS.filter((offer) => offer.group === group).map((offer) => (
            <Line key={offer.name} offer={offer} onChoose={onChoose} />
          ))}
        </Group>
      ))}
    </>
  );
}

function Group({ name, children }: { name: string; children: ReactNode }) {
  return (
    <Command.Group
      heading={name}
      className="pb-1 [&>[cmdk-group-heading]]:px-2.5 [&>[cmdk-group-heading]]:pt-1.5 [&>[cmdk-group-heading]]:text-[11px] [&>[cmdk-group-heading]]:font-semibold [&>[cmdk-group-heading]]:text-quiet"
    >
      {children}
    </Command.Group>
  );
}

interface LineProps {
  readonly offer: Offer;
  /** What its value begins with. */
  readonly before?: string;
  onChoose(offer: Offer): void;
}

function Line({ offer, before = '', onChoose }: LineProps) {
  const picture = pictureOf(offer);
  return (
    <Command.Item
      value={before + offer.name}
      onSelect={() => onChoose(offer)}
      className="flex cursor-pointer items-center gap-2.5 rounded px-2.5 py-1 data-[selected=true]:bg-hover"
    >
      <span className="grid h-8 w-11 shrink-0 place-items-center">
        {picture && <img src={picture} alt="" loading="lazy" className="size-full object-contain" />}
      </span>
      <span className="min-w-0">
        <span className="block font-serif text-[15px] leading-tight">{offer.name}</span>
        <span className="block text-xs leading-snug text-quiet">{offer.says}</span>
      </span>
    </Command.Item>
  );
}
