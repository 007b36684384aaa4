/** What a part can begin as, with pictures: shown while the sheet is empty. */
import { FileBox } from 'lucide-react';
import { OFFERS, type Offer } from '@nematos/core/design/offers';
import { GROUPS } from '@nematos/core/design/starters';
import { useBenchStore } from '../../bench/bench';
import { pictureOf } from './pictures';
import { addAndBegin } from '../worksheet/add-offered';

/** The beginnings of the trade, in groups, and a part from a file. */
export function Gallery() {
  const fromFile = OFFERS.find(({ kind }) => kind === 'part-from-file')!;
  return (
    <div
      role="region"
      aria-label="Ready-made beginnings"
      tabIndex={0}
      className="absolute inset-0 overflow-y-auto px-8 pt-12 pb-10"
    >
      <p className="font-serif text-xl">Begin with one of these, and change its figures.</p>
      <p className="mt-0.5 text-quiet">Or name any step in the line on the left.</p>
      {GROUPS.map((group) => (
        <section key={group} aria-label={group} className="mt-5">
          <h2 className="text-[13px] font-semibold">{group}</h2>
          <ul className="mt-1.5 grid grid-cols-[repeat(auto-fill,minmax(148px,1fr))] gap-3">
            {OFFERS.filter((offer) => offer.group === group).map((offer) => (
              <Card key={offer.name} offer={offer} />
            ))}
          </ul>
        </section>
      ))}
      <section aria-label="From a file" className="mt-5">
        <h2 className="text-[13px] font-semibold">From a file</h2>
        <ul className="mt-1.5 grid grid-cols-[repeat(auto-fill,minmax(148px,1fr))] gap-3">
          <Card offer={fromFile} />
        </ul>
      </section>
    </div>
  );
}

function Card({ offer }: { offer: Offer }) {
  const store = useBenchStore();
  const picture = pictureOf(offer);
  return (
    <li>
      <button
        type="button"
        className="group flex h-full w-full flex-col rounded-md text-left"
        onClick={() => addAndBegin(store, offer, 0)}
      >
        <span className="grid aspect-[7/5] w-full place-items-center overflow-hidden rounded-md border border-hair bg-sheet/60 group-hover:border-brass-line">
          {picture ? (
            <img src={picture} alt="" className="size-full object-contain" />
          ) : (
            <FileBox size={30} strokeWidth={1.2} className="text-quiet" aria-hidden />
          )}
        </span>
        <span className="mt-1 font-serif text-[15px] leading-tight">{offer.name}</span>
        <span className="text-xs leading-snug text-quiet">{offer.says}</span>
      </button>
    </li>
  );
}
