/** What the trade types, and what is offered first for it. */
import { expect } from 'chai';
import { addStep } from '../src/design/edit';
import { answering, nextOffers, OFFERS, STEP_GROUPS } from '../src/design/offers';
import { emptyDesign } from '../src/design/schema';
import { GROUPS } from '../src/design/starters';

/** Search terms by the offer that must come first. */
const FIRST: Readonly<Record<string, string>> = {
  'Compression spring':
    'spring, compression spring, compression, pressure spring, push spring, helical spring',
  'Conical spring': 'conical spring, taper spring, bumper',
  'Extension spring': 'extension spring, tension spring, tension, extension, pull spring, close-wound',
  'Torsion spring': 'torsion spring, torsion, spring with legs, leg spring, hinge spring, peg spring',
  'Flat spiral spring': 'clock spring, mainspring, spiral spring, flat spiral spring',
  'Bent tube': 'bent tube, bent pipe, handrail, bend tube, tube bend, hose, exhaust',
  Tee: 'tee, t-piece, junction, saddle, mitre, branch pipe, pipe joint, tube joint',
  'Y junction': 'y junction, y-piece, wye, breeches',
  Manifold: 'manifold, header, collector, distributor',
  Reducer: 'reducer, reduction, diffuser, nozzle, hopper',
  'Tube coil': 'tube coil, heating coil, cooling coil, heat exchanger, pipe coil',
  Hook: 'hook, s-hook, hanger, pendant',
  'Wire clip': 'clip, wire clip, clasp, retainer, staple, clamp',
  'Closed wire frame': 'frame, wire frame, link',
  Basket: 'basket, rack, crate',
  'Ribbed pot': 'ribbed vessel, scalloped',
  'Finger ring': 'finger ring, ring size, jewellery, wedding ring, washer',
  'Rope ring': 'rope ring, twisted ring, bracelet',
  Rope: 'rope, wire rope, cable, braid, knot, strand',
  'Endless band': 'endless band, endless, half turn, ribbon ring',
  'Twisted vessel': 'twisted vessel, vase, swirl vase, twisted pot',
  'Turned pot': 'pot, bowl, turned pot, jar, vessel',
  'Twisted column': 'twisted column, candle, column, finial, drop',
  'Bladed wheel': 'bladed wheel, wheel, impeller, fan, turbine, propeller, rotor',
  Auger: 'auger, screw conveyor, feed screw, conveyor, flight',
  Bolt: 'bolt, external thread, hexagon bolt, fastener',
  Nut: 'nut, internal thread, female thread, tapped hole',
  Worm: 'worm, lead screw, trapezoidal thread, worm gear, trapezoidal',
  'Dome cage': 'dome cage, lampshade, guard',
  'Straight axis': 'straight axis, axis, straight line, line',
  Helix: 'helix, coil, screw line',
  'Flat spiral': 'flat spiral, spiral, archimedean, scroll, hotplate',
  'Helix with stations': 'progressive, waisted, barrel spring, hourglass, variable pitch, stations',
  Run: 'run, polyline, bend rows, bend table, wire form, route, points, xyz, csv, lra',
  'Two-view run': 'two-view run, front view, plan and elevation, two view',
  Loop: 'loop, circle path, oval path',
  Arc: 'arc, elbow, bow',
  Involute: 'involute, evolvent, base circle',
  'Spherical spiral': 'spherical spiral, ball spiral, loxodrome',
  'Smooth curve': 'smooth curve, spline, 3d curve, curve, free curve',
  Winding: 'winding, lay, coiled',
  'Wrapped outline': 'wrap, roll, developed, wrapped outline',
  'Cast outline': 'cast, project, projection, shadow',
  'Wrung path': 'wrung path, twisted path',
  Cage: 'cage, meridians, parallels, lattice',
  'Centre line': 'centre line, center line, straighten, unbend, read a mesh',
  'Face axis': 'face axis, hole axis, boss',
  'Chain of paths': 'chain, connect, end to end, compose',
  'Part of a path': 'part of a path, trim, reverse, extend',
  'Round section': 'wire, rod, round bar, gauge, round section',
  'Tube section': 'tube, pipe, annulus, tube section',
  'Elliptic section': 'ellipse, oval, elliptic section',
  'Rectangular section': 'rectangle, flat bar, square bar, key, rectangular section',
  'Rectangular tube section': 'square tube, rectangular tube, box section, duct, hollow section, box tube',
  'Obround section': 'obround, stadium, long hole',
  'Polygonal section': 'polygon, hexagon, octagon, triangle section',
  'Star section': 'star, fluted, lobed',
  'Strip section': 'strip, tape, flat wire, ribbon',
  'V section': 'v section, vee, notch',
  'Angle section': 'angle section, angle iron, l profile',
  'Channel section': 'channel section, u profile, rail',
  'Custom section': 'custom section, dxf, svg, drawing, own profile',
  Sweep: 'sweep, carry, loft, along a path, guide',
  'Turned body': 'revolve, lathe, turned body, knob',
  'Extruded body': 'extrude, extrusion, prism, plate',
  Ball: 'ball, sphere, bead',
  Cylinder: 'cylinder, shaft, disc, pin, sleeve, drum',
  Cone: 'cone, frustum, countersink',
  Ring: 'ring, torus, doughnut, o-ring',
  Block: 'block, box, cuboid, cube',
  'Part from a file': 'stl, obj, 3mf, import, scan, part from a file',
  'Placed copy': 'move, rotate, mirror, scale, placed copy',
  'Repeated copies': 'repeat, pattern, array, row, circular pattern',
  'Bodies added': 'add, union, fuse, merge, bodies added',
  'Body with others taken away': 'subtract, difference, drill a hole, cut out, hole',
  'Joined tubes': 'join tubes, joined tubes',
  Blades: 'blades, vane, helicoid',
  'Body with rounded joints': 'fillet, chamfer, bevel, rounded joints',
  'Grooved body': 'groove, keyway, engrave, carve, grooved body',
  'Hollowed body': 'hollow, shell, hollowed body',
  'Reshaped body': 'twist, taper, stretch, bend, reshape',
  'Threaded rod': 'threaded rod, m8, tr16, stud, thread',
  'Tube with its end': 'flange, socket, spigot, pipe end, bolt circle',
  'Body with a seat': 'seat, recess, inlay',
  'What bodies share': 'common, intersection',
  'Compression duty': 'duty, spring rate, load, force',
  'Measured length': 'measure, distance, dimension, gap',
  'Measured mass': 'mass, weight',
};

describe('what is offered', () => {
  for (const [name, words] of Object.entries(FIRST))
    it(`${name} stands first for ${words}`, () => {
      for (const word of words.split(', ')) expect(answering(word)[0]?.name, word).equal(name);
    });

  it('is tried with 200 words, every offer with one at least', () => {
    expect(Object.values(FIRST).join(', ').split(', ').length).least(200);
    const untried = OFFERS.map(({ name }) => name).filter((name) => !FIRST[name]);
    expect(untried).deep.equal(['Measured angle', 'Measured surface', 'Measured volume']);
  });

  it('has names of its own and stands in a group', () => {
    expect(new Set(OFFERS.map(({ name }) => name)).size).equal(OFFERS.length);
    const groups: readonly string[] = [...GROUPS, ...STEP_GROUPS];
    for (const { name, group } of OFFERS) expect(groups, name).include(group);
  });

  it('is nothing for what nobody says', () => expect(answering('xyzzy plugh')).deep.equal([]));

  it('begins with what takes the last step and finds the rest', () => {
    const design = emptyDesign('Next');
    const names = () => (nextOffers(design.steps)?.offers ?? []).map(({ name }) => name);
    expect(names()).deep.equal([]);
    addStep(design, 'helix', 0);
    expect(names()).include('Winding').and.not.include('Sweep');
    addStep(design, 'round', 1);
    expect(names()).include('Sweep').and.include('Extruded body').and.not.include('Winding');
    addStep(design, 'sweep', 2);
    expect(names()).include('Hollowed body').and.include('Compression duty').and.not.include('Sweep');
  });
});
