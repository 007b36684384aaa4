import { expect } from 'chai';
import fc from 'fast-check';
import { addStep, stepOf } from '../src/design/edit';
import { emptyDesign } from '../src/design/schema';
import { readOutline } from '../src/exchange/outline-in';
import type { Section } from '../src/section/section';
import { valueOf } from './helpers';
import { evenly } from './numbers';
import { refusal } from './refusal';
import { runs } from './runs';

async function sectionOf(name: string, text: string): Promise<Section> {
  const { points, bores } = await readOutline(name, text);
  const design = emptyDesign('Drawing');
  const id = addStep(design, 'outline', 0);
  stepOf(design, id).rows = { points, bores };
  return (await valueOf(design, id)) as Section;
}
const dxf = (...pairs: (string | number)[][]): string =>
  [[0, 'SECTION'], [2, 'ENTITIES'], ...pairs, [0, 'ENDSEC'], [0, 'EOF']]
    .flatMap(([code, value]) => [String(code), String(value)])
    .join('\n');

type Place = [number, number];
const place = (x: number, y: number, at: readonly [number, number]) => [
  [x, at[0]],
  [y, at[1]],
];
const spline = (degree: number, knots: number[], controls: Place[], weights: number[] = []) => [
  [0, 'SPLINE'],
  [71, degree],
  ...knots.map((knot) => [40, knot]),
  ...weights.map((weight) => [41, weight]),
  ...controls.flatMap((at) => place(10, 20, at)),
];

/** ½∫(x dy − y dx) of a Bézier curve of the third degree, in closed form by pairs of its controls. */
function areaUnder(p: readonly Place[]): number {
  const pairs = [
    [0, 1, 6],
    [0, 2, 3],
    [0, 3, 1],
    [1, 2, 3],
    [1, 3, 3],
    [2, 3, 6],
  ] as const;
  return pairs.reduce(
    (sum, [i, j, weight]) => sum + (weight * (p[i]![0] * p[j]![1] - p[j]![0] * p[i]![1])) / 20,
    0,
  );
}

describe('outlines out of drawings', () => {
  it('SVG: shapes, curves, holes and transforms, in the unit it names', async () => {
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="50mm" viewBox="0 0 100 100">
      <g transform="translate(10 10)"><rect x="0" y="0" width="40" height="20"/>
      <circle cx="20" cy="10" r="6"/></g></svg>`;
    const section = await sectionOf('plate.svg', svg);
    // Half a millimetre a unit: 20 by 10 with a hole of 3 mm radius.
    expect(section.area).closeTo(200 - Math.PI * 9, 1e-5);
    expect(section.contours).lengthOf(2);
    const [x, y] = section.centroid;
    expect(x).closeTo(15, 1e-3);
    expect(y).closeTo(-10, 1e-3);
  });

  it('SVG: a path of straights keeps every corner exactly', async () => {
    const section = await sectionOf('l.svg', '<svg width="96"><path d="M0 0h96v48h-48v48H0z"/></svg>');
    expect(section.area).closeTo(25.4 * 25.4 * 0.75, 1e-4);
    expect(section.contours[0]!.corners).lengthOf(6);
  });

  it('SVG: rounded rectangles with what of their radii fits, and lines that come back to their start', async () => {
    const area = async (shape: string) =>
      (await sectionOf('a.svg', `<svg width="100mm" viewBox="0 0 100 100">${shape}</svg>`)).area;
    const corners = (rx: number, ry: number) => (4 - Math.PI) * rx * ry;
    expect(await area('<rect width="40" height="20" rx="5"/>')).closeTo(800 - corners(5, 5), 0.05);
    expect(await area('<rect width="40" height="20" ry="4"/>')).closeTo(800 - corners(4, 4), 0.05);
    expect(await area('<rect width="40" height="20" rx="8" ry="3"/>')).closeTo(800 - corners(8, 3), 0.05);
    expect(await area('<rect width="40" height="20" rx="30"/>')).closeTo(800 - corners(20, 10), 0.05);
    expect(await area('<rect width="40" height="20" rx="0"/>')).closeTo(800, 1e-9);
    // Circles are arcs, exactly, however large; ellipses are followed.
    expect(await area('<circle r="900"/>')).closeTo(Math.PI * 810_000, 1e-1);
    expect(await area('<ellipse rx="90" ry="30"/>')).closeTo(Math.PI * 2700, 0.3);
    expect(await area('<polyline points="0,0 30,0 0,40 0,0"/>')).closeTo(600, 1e-6);
  });

  it('SVG: any nest of transforms, by the area that their matrices leave', async () => {
    const shift = fc.tuple(evenly(-50, 50), evenly(-50, 50)).map(([x, y]) => ({
      says: `translate(${x} ${y})`,
      by: 1,
    }));
    const turn = evenly(-180, 180).map((angle) => ({ says: `rotate(${angle})`, by: 1 }));
    const size = fc.tuple(evenly(0.5, 2), evenly(-2, -0.5)).map(([x, y]) => ({
      says: `scale(${x} ${y})`,
      by: x * -y,
    }));
    const lean = evenly(-40, 40).map((angle) => ({ says: `skewX(${angle})`, by: 1 }));
    await fc.assert(
      fc.asyncProperty(fc.array(fc.oneof(shift, turn, size, lean), { maxLength: 5 }), async (all) => {
        const nested = (shape: string) => {
          const nest = all.reduceRight((inner, { says }) => `<g transform="${says}">${inner}</g>`, shape);
          return sectionOf('n.svg', `<svg width="200mm" viewBox="0 0 200 200">${nest}</svg>`);
        };
        const section = await nested('<polygon points="0,0 40,0 40,10 20,30 0,10"/>');
        const scaled = all.reduce((product, { by }) => product * by, 1);
        expect(section.area).closeTo(800 * scaled, 1e-4 * scaled + 1e-3);
        expect(section.contours[0]!.corners).lengthOf(5);
        const round = await nested('<circle cx="30" cy="-10" r="12"/>');
        expect(round.area).closeTo(144 * Math.PI * scaled, 0.002 * round.perimeter);
      }),
      { numRuns: runs(100) },
    );
  });

  it('SVG: arcs of circles and ellipses by their ends, large or small, either way, leaning', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.tuple(evenly(5, 40), evenly(5, 40), evenly(-90, 90)),
        fc.tuple(evenly(0, 360), evenly(30, 330)),
        async ([a, b, lean], [from, turn]) => {
          const rad = Math.PI / 180;
          const at = (angle: number): string => {
            const [x, y] = [a * Math.cos(angle * rad), b * Math.sin(angle * rad)];
            const [c, s] = [Math.cos(lean * rad), Math.sin(lean * rad)];
            return `${100 + c * x - s * y} ${100 + s * x + c * y}`;
          };
          const d = `M100 100L${at(from)}A${a} ${b} ${lean} ${turn > 180 ? 1 : 0} 1 ${at(from + turn)}Z`;
          const section = await sectionOf(
            'p.svg',
            `<svg width="200mm" viewBox="0 0 200 200"><path d="${d}"/></svg>`,
          );
          // A sector of the circle that the ellipse is of, by the scales along its axes.
          const area = (a * b * turn * rad) / 2;
          expect(section.area).closeTo(area, 0.003 * 3 * Math.max(a, b));
        },
      ),
      { numRuns: runs(100) },
    );
  });

  it('SVG: what only others refer to is left aside; a width in per cent says no size', async () => {
    const section = await sectionOf(
      'd.svg',
      `<svg width="100%" viewBox="0 0 10 10"><clipPath id="c"><rect width="960" height="960"/></clipPath>
      <symbol><circle r="500"/></symbol><rect width="96" height="96"/></svg>`,
    );
    // 96 to the inch.
    expect(section.area).closeTo(25.4 ** 2, 1e-3);
    expect(
      await refusal(readOutline('u.svg', '<svg><rect width="9" height="9"/><use href="#a"/></svg>')),
    ).include('draw them in their places');
  });

  it('DXF: polylines with bulges, lines and arcs that chain, circles', async () => {
    const slot = dxf(
      [0, 'LWPOLYLINE'],
      [90, 4],
      [70, 1],
      [10, 0],
      [20, 0],
      [10, 10],
      [20, 0],
      [42, 1],
      [10, 10],
      [20, 4],
      [10, 0],
      [20, 4],
      [42, 1],
      [0, 'CIRCLE'],
      [10, 5],
      [20, 2],
      [40, 1],
    );
    const section = await sectionOf('slot.dxf', slot);
    expect(section.area).closeTo(40 + 4 * Math.PI - Math.PI, 1e-6);
    const d = dxf(
      [0, 'LINE'],
      [10, 0],
      [20, -5],
      [11, 0],
      [21, 5],
      [0, 'ARC'],
      [10, 0],
      [20, 0],
      [40, 5],
      [50, 270],
      [51, 90],
    );
    const half = await sectionOf('half.dxf', d);
    expect(half.area).closeTo((Math.PI * 25) / 2, 1e-6);
  });

  it('DXF: ellipses and splines, followed by few arcs', async () => {
    const ellipse = [
      [0, 'ELLIPSE'],
      ...place(10, 20, [4, -3]),
      ...place(11, 21, [6, 8]),
      [40, 0.6],
      [41, 0],
      [42, 2 * Math.PI],
    ];
    const whole = await sectionOf('ellipse.dxf', dxf(...ellipse));
    expect(whole.area).closeTo(Math.PI * 10 * 6, 0.03);
    expect(whole.centroid[0]).closeTo(4, 1e-3);
    expect(whole.centroid[1]).closeTo(-3, 1e-3);
    expect(whole.contours[0]!.pieces.length).below(80);
    // Axes of 10 and 6, the longer along (3, 4) / 5.
    expect(whole.second.xx + whole.second.yy).closeTo((Math.PI / 4) * 60 * (100 + 36), 3);
    expect(whole.second.xy).closeTo((Math.PI / 4) * 60 * (100 - 36) * 0.6 * 0.8, 2);

    // A half of it, closed by its major axis.
    const half = [...ellipse.slice(0, -1), [42, Math.PI]];
    const axis = [[0, 'LINE'], ...place(10, 20, [-2, -11]), ...place(11, 21, [10, 5])];
    expect((await sectionOf('half.dxf', dxf(...half, ...axis))).area).closeTo(Math.PI * 30, 0.02);

    // A circle as a rational spline of the second degree is exact.
    const r = Math.SQRT1_2;
    const square: [number, number][] = [
      ...([
        [1, 0],
        [1, 1],
        [0, 1],
        [-1, 1],
        [-1, 0],
      ] as const),
      ...([
        [-1, -1],
        [0, -1],
        [1, -1],
        [1, 0],
      ] as const),
    ].map(([x, y]) => [7 * x, 7 * y]);
    const circle = spline(2, [0, 0, 0, 1, 1, 2, 2, 3, 3, 4, 4, 4], square, [1, r, 1, r, 1, r, 1, r, 1]);
    const disc = await sectionOf('disc.dxf', dxf(...circle));
    expect(disc.area).closeTo(49 * Math.PI, 1e-4);
    expect(disc.reach).closeTo(7, 1e-5);
    expect(disc.contours[0]!.pieces.length).below(13);
  });

  it('SVG and DXF: any curve of the third degree holds the area that it holds', async () => {
    const figure = evenly(-3, 3);
    await fc.assert(
      fc.asyncProperty(fc.array(figure, { minLength: 8, maxLength: 8 }), async (n) => {
        // From 0, 0 by way of two controls to 20, 0 and back above.
        const below = [
          [0, 0],
          [6 + n[0]!, -6 + n[1]!],
          [14 + n[2]!, -6 + n[3]!],
          [20, 0],
        ] as Place[];
        const above = [
          [20, 0],
          [14 + n[4]!, 6 + n[5]!],
          [6 + n[6]!, 6 + n[7]!],
          [0, 0],
        ] as Place[];
        const exact = areaUnder(below) + areaUnder(above);
        const knots = [0, 0, 0, 0, 1, 1, 1, 1];
        const curves = dxf(...spline(3, knots, below), ...spline(3, knots, above));
        const way = ([, a, b, c]: Place[]) => `C${[a, b, c].map((p) => p!.join(' ')).join(' ')}`;
        const svg = `<svg width="100mm" viewBox="0 0 100 100"><path d="M0 0${way(below)}${way(above)}z"/></svg>`;
        for (const [name, text] of [
          ['a.dxf', curves],
          ['a.svg', svg],
        ] as const)
          expect((await sectionOf(name, text)).area).closeTo(exact, 0.002 * 45);
      }),
      { numRuns: runs(60) },
    );
  });

  it('refuses what it cannot read, in words', async () => {
    const knots = [0, 0, 0, 0, 1, 1, 1, 1];
    expect(await refusal(readOutline('a.dxf', dxf([0, 'SPLINE'], [71, 3], [11, 0], [21, 0])))).match(
      /points it passes/,
    );
    expect(
      await refusal(
        readOutline(
          'a.dxf',
          dxf(
            ...spline(3, knots, [
              [0, 0],
              [1, 1],
              [2, 0],
            ]),
          ),
        ),
      ),
    ).match(/do not go together/);
    expect(
      await refusal(
        readOutline('a.dxf', dxf([0, 'ARC'], [10, 0], [20, 0], [40, 5], [50, 0], [51, 90], [230, -1])),
      ),
    ).match(/drawn from below/);
  });

  it('says what is wrong with a drawing', async () => {
    expect(await refusal(readOutline('a.png', ''))).match(/Only SVG and DXF/);
    expect(await refusal(readOutline('a.svg', 'nothing'))).match(/not a readable SVG/);
    expect(await refusal(readOutline('a.svg', '<svg><path d="M0 0L5 5"/></svg>'))).match(/no closed outline/);
    expect(await refusal(readOutline('a.dxf', dxf([0, 'CIRCLE'], [10, 5], [20, 2], [40, 1])))).match(
      /only circles/,
    );
  });
});
