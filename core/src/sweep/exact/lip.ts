/** What the rounded rim of a hollow section measures. */
import { integrateSteps } from '../../geometry/numeric';
import type { Task } from '../../geometry/task';
import { momentsBetween } from '../../section/match';
import type { Standing } from '../carry/carrier';
import { endsOf } from '../carry/cutting';
import { lipPairs } from '../carry/lip';
import type { Swept } from '../carry/swept';
import { nodesOf, panelsFor } from './rounds';

/** Part of the section's area that the quadrature of a surface may be off by before it is halved. */
const EXACT = 1e-11;

/** What lies within its outer half, up to where it is highest, mm³: ∫ A cos φ dφ, A being of the second degree in cos φ. */
export function brimVolume(swept: Swept): number {
  const [, here] = endsOf(swept);
  const pairs = lipPairs(swept, here.mix);
  const [outer, middle, inner] = [0, 0.5, 1].map((mix) => momentsBetween(pairs, mix).m00) as [
    number,
    number,
    number,
  ];
  const [once, twice] = [4 * middle - 3 * outer - inner, 2 * (outer + inner) - 4 * middle];
  const area = outer + (once * (1 - Math.PI / 4)) / 2 + (twice * (5 / 3 - Math.PI / 2)) / 4;
  return area * swept.lip * here.sx * here.sy;
}

/** Its surface, mm²: ∬ |∂u P × ∂φ P| of P = middle + cos φ·half + sin φ·height, over half a round and once about. */
export function* lipSurface(swept: Swept, here: Standing): Task<number> {
  const pairs = lipPairs(swept, here.mix);
  const panels: number[] = [];
  for (const { a, b } of pairs) {
    yield;
    panels.push(2 * Math.max(...[a, b].map(panelsFor)));
  }
  const nodes = (side: 'a' | 'b') =>
    nodesOf(pairs.map((pair, i) => ({ curve: pair[side], panels: panels[i]! })));
  const outer = nodes('a');
  yield;
  const inner = nodes('b');
  const { lip: h } = swept;
  const { sx, sy } = here;
  const whole = yield* integrateSteps(
    (phi, out) => {
      const [c, s] = [Math.cos(phi), Math.sin(phi)];
      let sum = 0;
      for (let i = 0; i < outer.x.length; i++) {
        const [x, y] = [(sx * (outer.x[i]! - inner.x[i]!)) / 2, (sy * (outer.y[i]! - inner.y[i]!)) / 2];
        const a = (sx * ((1 + c) * outer.tx[i]! + (1 - c) * inner.tx[i]!)) / 2;
        const b = (sy * ((1 + c) * outer.ty[i]! + (1 - c) * inner.ty[i]!)) / 2;
        const flat = s * (a * y - b * x);
        sum += Math.sqrt(h * h * c * c * (a * a + b * b) + flat * flat);
      }
      out[0] = sum;
    },
    1,
    0,
    Math.PI,
    4,
    EXACT * swept.section.area,
  );
  return whole[0]!;
}
