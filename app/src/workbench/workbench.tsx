/** Where one design is worked on: the sheet on the left, the stage beside it. */
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent, type ReactNode } from 'react';
import { useParams } from 'react-router';
import { keepLocalText, localText } from '../ui/local';
import { Page } from '../ui/page';
import { fetchKept, isFleeting, type Kept } from '../data/store';
import { Bar } from './bar';
import { BenchContext, openBench, useBench, useOfDesign, useUnits, type BenchStore } from '../bench/bench';
import { ChosenUnits } from '../ui/figure';
import { Compare } from './compare/compare';
import { Ledger } from './findings/ledger';
import { Foot } from './foot/foot';
import type { Engine } from '../render/engine';
import { PrintPage } from './print-page';
import { Stage } from './stage/stage';
import { StepsList } from './steps-list';
import { Worksheet } from './worksheet/worksheet';

/** The design of the address, read and put on the workbench. */
export default function Workbench() {
  const { id } = useParams();
  const kept = useQuery({
    queryKey: ['kept', id],
    queryFn: async () => {
      const found = await fetchKept(id!);
      if (!found && (await isFleeting())) throw new Error("The browser's storage is not available.");
      return found ?? null;
    },
    gcTime: 0,
    refetchOnWindowFocus: false,
  });
  if (kept.data === null || kept.error)
    return (
      <Page
        title={kept.error ? 'The design could not be read' : 'There is no such design in this browser'}
        text={
          kept.error
            ? `${kept.error.message} Reload the page to try again.`
            : 'It may have been made in another browser, or removed.'
        }
      />
    );
  return kept.data ? <OnBench kept={kept.data} /> : null;
}

/** A design on the workbench; with `reading` it can be looked at and not changed, and is not kept. */
export function OnBench({ kept, reading = false }: { kept: Kept; reading?: boolean }) {
  const [store, setStore] = useState<BenchStore>();
  useEffect(() => {
    const opened = openBench(kept, reading);
    setStore(opened);
    return () => {
      opened.close();
      setStore(undefined);
    };
  }, [kept, reading]);
  if (!store) return null;
  return (
    <BenchContext.Provider value={store}>
      <InUnits>
        <Room />
      </InUnits>
    </BenchContext.Provider>
  );
}

/** What is shown within it has the units that the design has chosen. */
function InUnits({ children }: { children: ReactNode }) {
  const units = useUnits();
  return (
    <ChosenUnits.Provider value={typeof units === 'string' ? USUAL : units.chosen}>
      {children}
    </ChosenUnits.Provider>
  );
}
const USUAL = {};

const WIDTH_KEY = 'nematos:sheet-width';
const LEAST = 340;
const MOST = 640;
const held = (width: number): number => Math.min(MOST, Math.max(LEAST, Math.round(width)));

function Room() {
  const name = useOfDesign((design) => design.name);
  const [engine, setEngine] = useState<Engine>();
  const compare = useBench((bench) => bench.view.compare ?? false);
  const listed = useBench((bench) => bench.view.listed ?? false);
  const reading = useBench((bench) => bench.reading);
  const [width, setWidth] = useState(() => held(Number(localText(WIDTH_KEY)) || 404));
  const dragging = useRef(false);
  /** Under the results: what is told of how the part is looked at. */
  const [column, setColumn] = useState<HTMLElement | null>(null);

  useEffect(() => {
    document.title = `${name || 'Untitled'} – Nematos`;
  }, [name]);

  const resize = (next: number) => {
    setWidth(held(next));
    keepLocalText(WIDTH_KEY, String(held(next)));
  };
  const onPointerMove = (event: PointerEvent) => {
    if (dragging.current) resize(event.clientX);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'ArrowLeft') resize(width - 20);
    if (event.key === 'ArrowRight') resize(width + 20);
  };

  return (
    <div className="flex h-full flex-col print:block print:h-auto">
      <Bar engine={engine} />
      {compare && <Compare />}
      {listed && !compare && <StepsList />}
      {!compare && !listed && <PrintPage engine={engine} />}
      <main className={`min-h-0 grow print:hidden ${compare || listed ? 'hidden' : 'flex'}`}>
        <fieldset disabled={reading} style={{ width }} className="min-w-0 shrink-0">
          <Worksheet />
        </fieldset>
        <div
          role="separator"
          tabIndex={0}
          aria-orientation="vertical"
          aria-label="Width of the sheet"
          aria-valuenow={width}
          aria-valuemin={LEAST}
          aria-valuemax={MOST}
          className="relative z-10 -mx-[3px] w-[7px] shrink-0 cursor-col-resize touch-none after:absolute after:inset-y-0 after:left-[3px] after:w-px after:bg-hair hover:after:bg-brass"
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            dragging.current = true;
          }}
          onPointerMove={onPointerMove}
          onPointerUp={() => (dragging.current = false)}
          onPointerCancel={() => (dragging.current = false)}
          onKeyDown={onKeyDown}
        />
        <div className="flex min-w-0 grow flex-col">
          <div className="relative min-h-0 grow">
            <Stage onEngine={setEngine} column={column} />
            <div className="pointer-events-none absolute inset-y-0 right-0 flex w-[228px] flex-col *:pointer-events-auto">
              <Ledger />
              <div ref={setColumn} className="mt-auto max-h-[62%] shrink-0 overflow-y-auto" />
            </div>
          </div>
          <Foot />
        </div>
      </main>
    </div>
  );
}
