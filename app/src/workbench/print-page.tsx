/** The page that is printed from the workbench: a picture, results and findings, and every sentence. */
import { useEffect, useState } from 'react';
import { flushSync } from 'react-dom';
import type { Result } from '@nematos/core/kind/value';
import { useBench, useDesign, useUnit } from '../bench/bench';
import type { Engine } from '../render/engine';
import { Resulting, Said } from '../ui/figure';
import { currentTheme, lightForPrint } from '../ui/theme';
import { useOutdated } from './findings/calculating';
import { Extent } from './findings/extent';
import { useTold, type Found, type Group } from './findings/groups';
import { LevelSign } from './findings/level-sign';
import { paintInked } from './stage/inked';
import { Sentences } from './steps-list';

const DAY = new Intl.DateTimeFormat('en-GB', { dateStyle: 'long' });

/** Pixels of the picture to one of CSS: a printer draws finer than a screen. */
const TIMES = 2;

/** The views on white, with what is written over them; nothing where nothing is shown. */
function pictureOf(engine: Engine | undefined): string | undefined {
  if (!engine?.shows()) return undefined;
  engine.dress('light');
  const paint = (context: CanvasRenderingContext2D, scale: number) =>
    paintInked(context, engine.canvas.parentElement!, scale);
  const still = engine.still(TIMES, '#ffffff', paint);
  engine.dress(currentTheme());
  return still.toDataURL('image/png');
}

/** Replaces the workbench on paper. It is rendered when the browser is about to print. */
export function PrintPage({ engine }: { engine: Engine | undefined }) {
  const [printing, setPrinting] = useState<{ readonly picture: string | undefined; readonly day: string }>();
  useEffect(() => {
    let restore = () => {};
    const before = () => {
      restore = lightForPrint();
      const picture = pictureOf(engine);
      flushSync(() => setPrinting({ picture, day: DAY.format(new Date()) }));
    };
    const after = () => {
      restore();
      setPrinting(undefined);
    };
    window.addEventListener('beforeprint', before);
    window.addEventListener('afterprint', after);
    return () => {
      window.removeEventListener('beforeprint', before);
      window.removeEventListener('afterprint', after);
    };
  }, [engine]);
  return printing ? <Printed {...printing} /> : null;
}

function Printed({ picture, day }: { picture: string | undefined; day: string }) {
  const design = useDesign();
  const told = useTold();
  const outdated = useOutdated();
  const working = useBench((bench) => bench.working);
  return (
    <article aria-label="Printed page" className="hidden print:block">
      <h1 className="font-serif text-3xl">{design.name || 'Untitled'}</h1>
      <p className="text-quiet">
        {design.note && <span className="block">{design.note}</span>}
        Printed on {day} with Nematos. Lengths in {design.unit}.
      </p>
      {(outdated || working) && (
        <p className="font-semibold">Results and findings were still being calculated.</p>
      )}
      {picture && <img src={picture} alt="The part" className="mx-auto mt-3 max-h-[110mm] max-w-full" />}
      <div className="mt-4">
        {told.whole && (
          <Told title="Whole part" figures={told.whole.figures} findings={told.whole.findings} />
        )}
        {told.groups.map((group) => (
          <Told
            key={group.id}
            title={group.name ?? 'Results and findings'}
            figures={figuresOf(group)}
            findings={group.findings}
          />
        ))}
      </div>
      <Sentences design={design} />
    </article>
  );
}

const figuresOf = ({ results }: Group): Result[] => results.flatMap(({ results }) => results);

function Told({
  title,
  figures,
  findings,
}: {
  title: string;
  figures: readonly Result[];
  findings: readonly Found[];
}) {
  const unit = useUnit();
  return (
    <section aria-label={title} className="mb-3 break-inside-avoid">
      <h2 className="font-semibold">{title}</h2>
      <div className="grid grid-cols-2 items-start gap-x-8">
        <dl>
          {figures.map(
            (figure) =>
              figure.head && (
                <div key={figure.name} className="flex justify-between gap-3">
                  <dt className="text-quiet">{figure.head}</dt>
                  <dd>
                    <Resulting figure={figure} unit={unit} />
                  </dd>
                </div>
              ),
          )}
          <Extent figures={figures} />
        </dl>
        <ul>
          {findings.map(({ step, finding }) => (
            <li key={step + finding.name} className="flex gap-2">
              <LevelSign level={finding.level} />
              <span>
                <Said says={finding.says} unit={unit} />
              </span>
            </li>
          ))}
        </ul>
      </div>
    </section>
  );
}
