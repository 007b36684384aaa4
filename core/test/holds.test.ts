import type { SweptBody } from '../src/sweep/body';
import { expect } from 'chai';
import { checkStep } from '../src/design/check-step';
import { createCache, evaluate } from '../src/design/evaluate';
import { addStep, setInput } from '../src/design/edit';
import type { Path } from '../src/path/path';
import { axisFrom, firstAxis, freeFrame } from '../src/path/frame';
import { standing } from '../src/sweep/carry/carrier';
import { freeAxis, freeLeft } from '../src/sweep/carry/hold';
import { type Carried, bodyDesign, carried, errors, near, straight, points } from './bodies';
import { complaintsOf } from './helpers';

const square: Carried['section'] = {
  kind: 'rectangle',
  set: { width: '6 mm', height: '6 mm', radius: '0 mm' },
};
async function findingsOf(what: Carried) {
  const design = bodyDesign(what);
  const cache = createCache();
  const { steps } = await evaluate(design, cache);
  const at = design.steps.length - 1;
  return (await checkStep(design.steps[at]!, steps[at]!, cache, async () => {})).findings;
}

describe('holds', () => {
  const coil: Carried['path'] = { kind: 'helix', set: { diameter: '40 mm', turns: '2', height: '30 mm' } };
  const flat: Carried['section'] = {
    kind: 'rectangle',
    set: { width: '6 mm', height: '2 mm', radius: '0 mm' },
  };
  const axisAt = async (what: Carried, s: number) => {
    const body = await carried(what);
    const { carrier } = body.swept[0]!;
    const here = standing();
    const { piece, u } = carrier.path.locate(s * carrier.path.length);
    carrier.stand(piece, u, here);
    return { body, here };
  };

  it('seated on a coil, the width stays radial', async () => {
    const { here, body } = await axisAt({ path: coil, section: flat, sweep: { hold: 'seated' } }, 0.37);
    const out = [here.c[0]! / 20, here.c[1]! / 20, 0];
    expect(here.u[0]! * out[0]! + here.u[1]! * out[1]!).closeTo(1, 1e-9);
    near(body.volume, 12 * body.length, 1e-9);
    expect(errors(body, [0.02])[0]).below(2e-3);
  });

  it('facing upwards, the first axis leans with the path and no further', async () => {
    const { here } = await axisAt({ path: coil, section: flat, sweep: { hold: 'facing' } }, 0.6);
    const lead = Math.atan2(30, 2 * 40 * Math.PI);
    expect(here.u[2]).closeTo(Math.cos(lead), 1e-12);
  });

  it('level, a section slides along without turning: area by the way ahead (Cavalieri)', async () => {
    const path: Carried['path'] = {
      kind: 'smooth',
      rows: {
        points: points([0, 0, 0], [20, 6, 3], [45, 2, -4]),
      },
    };
    const body = await carried({ path, section: flat, sweep: { hold: 'level' } });
    const { carrier } = body.swept[0]!;
    const [a, b] = [carrier.path.at(0), carrier.path.at(carrier.path.length)];
    const ahead = [0, 1, 2].reduce((sum, k) => sum + (b.position[k]! - a.position[k]!) * a.tangent[k]!, 0);
    near(body.volume, 12 * ahead, 1e-9);
    const says = await complaintsOf(
      bodyDesign({ path: coil, section: flat, sweep: { hold: 'level' } }),
      'sweep',
    );
    expect(says.hold).match(/edge on at/);
  });

  it('is told where it says nothing', async () => {
    const says = await complaintsOf(
      bodyDesign({ path: straight(20), section: flat, sweep: { hold: 'facing' } }),
      'sweep',
    );
    expect(says.facingX).match(/itself runs in the direction/);
    const guided = await complaintsOf(
      bodyDesign({ path: coil, section: flat, sweep: { hold: 'guided' } }),
      'sweep',
    );
    expect(guided.guide).match(/Choose the guide/);
  });

  it('guided by an outer helix, a corner of the polygon follows it', async () => {
    const design = bodyDesign({
      path: straight(60),
      section: { kind: 'polygon', set: { sides: '5', size: '20 mm', across: 'corners' } },
      sweep: { hold: 'guided', turned: '-36 deg' },
    });
    addStep(design, 'helix', 2, {
      diameter: '20 mm',
      turns: '0.4',
      height: '60 mm',
      taper: 'diameter',
      endDiameter: '34 mm',
    });
    setInput(design, 'sweep', 'guide', 'helix');
    const { steps } = await evaluate(design, createCache());
    const body = steps.at(-1)!.value as SweptBody;
    const guide = steps.find(({ id }) => id === 'helix')!.value as Path;
    const mesh = body.mesh(0.02, 1e6);
    for (const part of [0.2, 0.5, 0.9]) {
      const at = guide.at(part * guide.length).position;
      let nearest = Infinity;
      for (let i = 0; i < mesh.positions.length; i += 3)
        nearest = Math.min(
          nearest,
          Math.hypot(
            mesh.positions[i]! - at[0],
            mesh.positions[i + 1]! - at[1],
            (mesh.positions[i + 2]! - at[2]) * 0.2,
          ),
        );
      expect(nearest).below(0.6);
    }
    // A pentagon of corner radius r has area 5/2·r²·sin 72°, and r grows evenly with the height from 10 to 17.
    const mean = (10 * 10 + 10 * 17 + 17 * 17) / 3;
    near(body.volume, 2.5 * Math.sin((72 * Math.PI) / 180) * mean * 60, 1e-8);
  });

  it('guided in size by an arc about its path it is a zone of a ball', async () => {
    const [ball, half] = [20, 13];
    const zone = await carried({
      path: { kind: 'run', rows: { points: points([0, -half, 0], [0, half, 0]) } },
      guide: { kind: 'arc', set: { radius: `${ball} mm`, angle: '100 deg', startAngle: '-50 deg' } },
      section: { kind: 'round', set: { diameter: '10 mm' } },
      sweep: { hold: 'guided', guideSets: 'both' },
    });
    // At its ends, √(R² − h²) off the path, it is as wide as it is drawn.
    const square = (25 * ball ** 2) / (ball ** 2 - half ** 2);
    near(zone.volume, Math.PI * (2 * half * square - (2 / 3) * half ** 3 * (square / ball ** 2)), 1e-11);
    const [least, most] = zone.extent;
    near(most[0], Math.sqrt(square), 1e-9);
    near(-least[2], Math.sqrt(square), 1e-9);
  });

  it('guided in size round a bend, the rate of the size is that of its differences', async () => {
    const { swept } = await carried({
      path: {
        kind: 'run',
        rows: { points: points([0, 0, 0], [0, 0, 60], [50, 0, 90]) },
        set: { radius: '40 mm' },
      },
      guide: {
        kind: 'run',
        rows: { points: points([8, 3, -5], [8, 6, 50], [70, 12, 130]) },
        set: { radius: '30 mm' },
      },
      section: square,
      sweep: { hold: 'guided', guideSets: 'both' },
    });
    const { path, stand } = swept[0]!.carrier;
    const [here, before, after] = [standing(), standing(), standing()];
    let rates = 0;
    path.pieces.forEach((piece, k) => {
      for (const part of [0.2, 0.5, 0.8]) {
        const [u, h] = [part * piece.span, 1e-4 * piece.span];
        stand(k, u, here);
        stand(k, u - h, before);
        stand(k, u + h, after);
        const rate = Math.log(after.sx / before.sx) / (2 * h * here.speed);
        expect(here.gx).closeTo(rate, 1e-7);
        rates = Math.max(rates, Math.abs(rate));
      }
    });
    expect(rates).above(1e-3);
  });
});

describe('meshes come to the exact volume at second order', () => {
  const SECTIONS: Carried['section'][] = [
    { kind: 'round', set: { diameter: '6 mm' } },
    { kind: 'tube', set: { outer: '8 mm', wall: '1.5 mm' } },
    { kind: 'ellipse', set: { width: '8 mm', height: '4 mm' } },
    { kind: 'rectangle', set: { width: '6 mm', height: '3 mm', radius: '0.5 mm' } },
    { kind: 'obround', set: { width: '8 mm', height: '3 mm' } },
    { kind: 'polygon', set: { sides: '5', size: '6 mm' } },
    { kind: 'star', set: { tips: '5', size: '9 mm', valley: '0.6' } },
    { kind: 'strip', set: { width: '8 mm', thickness: '1 mm' } },
    { kind: 'vee', set: { depth: '4 mm' } },
    { kind: 'outline' },
  ];
  const coil: Carried['path'] = { kind: 'helix', set: { diameter: '60 mm', turns: '1.5', height: '50 mm' } };
  const bow: Carried['path'] = {
    kind: 'smooth',
    rows: {
      points: points([0, 0, 0], [30, 9, 5], [70, 3, -6]),
    },
  };
  const HOLDS: [string, Carried['path'], Record<string, string>][] = [
    ['free', coil, {}],
    ['facing', coil, { hold: 'facing' }],
    ['seated', coil, { hold: 'seated' }],
    ['level', bow, { hold: 'level' }],
    ['free and twisted', coil, { twistBy: 'total', twist: '400 deg' }],
  ];
  for (const [hold, path, sweep] of HOLDS)
    for (const section of SECTIONS)
      it(`${section.kind}, ${hold}`, async () => {
        const body = await carried({ path, section, sweep });
        // Sixteen times as fine a tolerance is four times as fine a step: the error falls to a sixteenth, or is gone.
        const [coarse, fine] = errors(body, [0.16, 0.01]);
        expect(fine).below(Math.max(coarse! / 6, 3e-6));
        expect(fine).below(1e-3);
      });
});

describe('what is found about a body', () => {
  it('a flat section that cuts itself is found by its mesh, one that only comes near is not', async () => {
    const coil = (pitch: string): Carried => ({
      path: { kind: 'helix', set: { diameter: '40 mm', turns: '3', pitch }, without: ['height'] },
      section: { kind: 'rectangle', set: { width: '10 mm', height: '2 mm', radius: '0 mm' } },
      sweep: { hold: 'seated' },
    });
    const apart = (await findingsOf(coil('3 mm'))).find(({ name }) => name === 'clearance')!;
    expect(apart.level).equal('good');
    const cuts = (await findingsOf(coil('1.5 mm'))).find(({ name }) => name === 'clearance')!;
    expect(cuts).include({ level: 'fault', overlaps: true });
  });

  it('a wall under what is wanted, and a twist too fast', async () => {
    const walls = await findingsOf({
      path: straight(30),
      section: { kind: 'tube', set: { outer: '10 mm', wall: '1 mm' } },
      sweep: { leastWall: '0.8 mm', size: 'taper', endScale: '0.5' },
    });
    expect(walls.find(({ name }) => name === 'wall')).include({ level: 'fault' });
    expect(walls.find(({ name }) => name === 'wall')!.value).closeTo(0.5, 1e-12);
    const fast = await findingsOf({
      path: straight(30),
      section: square,
      sweep: { twistBy: 'lay', twistLay: '4 mm' },
    });
    expect(fast.find(({ name }) => name === 'twist')!.level).equal('fault');
  });
});

describe('the frame that turns as little as possible', () => {
  const bent = points([0, 0, 0], [30, 0, 0], [30, 25, 4], [40, 30, 30], [7, -3, 12]);
  const paths: Carried['path'][] = [
    { kind: 'helix', set: { diameter: '40 mm', turns: '2.3', height: '30 mm', hand: 'left' } },
    { kind: 'run', set: { corners: 'bent', radius: '4 mm' }, rows: { points: bent } },
    { kind: 'run', set: { corners: 'mitred' }, rows: { points: bent } },
  ];
  for (const path of paths)
    it(`in closed form, along a ${path.kind} ${path.set?.corners ?? ''}, is that of double reflection`, async () => {
      const body = await carried({ path, section: square, sweep: { corners: 'mitred' } });
      const { carrier, original } = body.swept[0]!;
      expect(carrier.path.pieces.every(({ even }) => even)).equal(true);
      const kept = freeFrame(carrier.path, firstAxis(original));
      const here = standing();
      const out = new Float64Array(3);
      let before = 0;
      carrier.path.pieces.forEach((piece, k) => {
        const n = kept.intervals[k]!;
        for (const part of [0.13, 0.5, 0.99]) {
          carrier.stand(k, part * piece.span, here);
          const p = Float64Array.of(...here.c, ...here.n);
          axisFrom(kept, before + Math.floor(part * n), p, out);
          for (let i = 0; i < 3; i++) expect(here.u[i]).closeTo(out[i]!, 1e-8);
        }
        before += n;
      });
    });

  it('on a closed frame of straights it misses as much as double reflection says', async () => {
    const path = {
      kind: 'run',
      set: { corners: 'mitred', closed: 'closed' },
      rows: { points: bent },
    };
    const { original } = (await carried({ path, section: { kind: 'round', set: {} } })).swept[0]!;
    const { left } = freeFrame(original, firstAxis(original));
    expect(Math.abs(left)).above(0.01);
    expect(freeLeft(original, freeAxis(original, original))).closeTo(left, 1e-9);
  });
});
