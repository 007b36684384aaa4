/** What editors of sections share: the word for the kind, which can be changed for another, and the drawing. */
import { swapKind } from '@nematos/core/design/edit';
import { KINDS, kindNamed } from '@nematos/core/design/registry';
import { Choice } from '../../ui/controls';
import { useBench, useBenchStore } from '../../bench/bench';
import { useEditing, useResult } from '../../fields/editor';

const SECTIONS = Object.values(KINDS)
  .filter(({ yields }) => yields === 'section')
  .map(({ kind, word, title }) => [kind, word ?? title] as const);

/** The kind of section: another takes its place, and what is built on it stays. */
export function SectionWord() {
  const { step } = useEditing();
  const store = useBenchStore();
  return (
    <Choice
      value={step.kind}
      options={SECTIONS}
      name="kind of section"
      onChoose={(kind) => {
        if (kind !== step.kind)
          store
            .getState()
            .edit(`Make it a ${kindNamed(kind)!.noun}`, (draft) => swapKind(draft, step.id, kind));
      }}
    />
  );
}

/** Contours of a section (of the step that is edited, unless told) as they are drawn, in a square of that many units; y upwards. */
export function useContours(size: number, of?: string) {
  const { step } = useEditing();
  const drawn = useBench((bench) => bench.drawn.get(of ?? step.id));
  if (drawn?.type !== 'line') return undefined;
  let reach = 0;
  let [left, right, low, high] = [Infinity, -Infinity, Infinity, -Infinity];
  for (const line of drawn.lines)
    for (let i = 0; i < line.length; i += 3) {
      [left, right] = [Math.min(left, line[i]!), Math.max(right, line[i]!)];
      [low, high] = [Math.min(low, line[i + 1]!), Math.max(high, line[i + 1]!)];
    }
  reach = Math.max(right - left, high - low, 1e-9);
  const scale = (0.84 * size) / reach;
  const [cx, cy] = [(left + right) / 2, (low + high) / 2];
  const at = (x: number, y: number): readonly [number, number] => [
    size / 2 + scale * (x - cx),
    size / 2 - scale * (y - cy),
  ];
  const path = drawn.lines
    .map((line) => {
      const points: string[] = [];
      for (let i = 0; i < line.length; i += 3)
        points.push(
          at(line[i]!, line[i + 1]!)
            .map((v) => v.toFixed(2))
            .join(' '),
        );
      return `M${points.join('L')}Z`;
    })
    .join('');
  return {
    path,
    at,
    scale,
    high: scale * (high - low),
    box: { left, right, low, high },
    corners: drawn.corners ?? [],
  };
}

/** The section as it is, with its centroid: it follows every figure. */
export function SectionDrawing() {
  const contours = useContours(48);
  const x = useResult('centroidX')?.value ?? 0;
  const y = useResult('centroidY')?.value ?? 0;
  if (!contours) return null;
  const [cx, cy] = contours.at(x, y);
  return (
    <svg viewBox="0 0 48 48" className="size-12" aria-hidden>
      <path
        d={contours.path}
        fill="var(--hover)"
        fillRule="evenodd"
        stroke="currentColor"
        strokeWidth="1.1"
      />
      <path
        d={`M${cx - 5} ${cy}h10M${cx} ${cy - 5}v10`}
        stroke="var(--brass)"
        strokeWidth="0.9"
        strokeDasharray="2 1.2"
      />
    </svg>
  );
}

/** Shown under every section; its other results are folded. */
export const SECTION_RESULTS = ['area', 'secondX', 'secondY'] as const;
