import { MATERIALS } from '@nematos/core/measure/materials';
import { expect } from 'chai';
import { edit } from '@nematos/core/design/history';
import { stepOf } from '@nematos/core/design/edit';
import { HereWorker, page, withPage } from './a-browser';
import { demo } from './demo';

const { openBench } = await import('../src/bench/bench');
const { PATIENCE } = await import('../src/bench/long-answers');
const { alsoSelecting, chartedStep, chosenStep, selecting, shownCount } =
  await import('../src/bench/selection');
const { fetchKept, keep, putOnShelf } = await import('../src/data/store');
type Opened = ReturnType<typeof openBench>;

/** Waits until something holds; fails with what stands then. */
async function until(holds: () => boolean, says: () => unknown = () => ''): Promise<void> {
  const end = Date.now() + 20_000;
  while (!holds()) {
    if (Date.now() > end) throw new Error(`it never came: ${JSON.stringify(says())}`);
    await new Promise((resolve) => setTimeout(resolve, 5));
  }
}

const later = globalThis.setTimeout;
/** Waits a tenth as long for a worker that comes to no end. */
const losePatience = (): void => {
  globalThis.setTimeout = ((act: () => void, ms: number) =>
    later(act, ms === PATIENCE ? ms / 10 : ms)) as typeof setTimeout;
};

const figure = (bench: Opened, step: string, name: string) =>
  bench
    .getState()
    .seen?.steps.find(({ id }) => id === step)
    ?.results.find((one) => one.name === name)?.value;

describe('the workbench', () => {
  withPage();
  let bench: Opened;
  let id: string;
  const open = async (name: string): Promise<void> => {
    const design = demo(name);
    // Of even pitch, its length is known from a formula.
    if (name === 'gate-spring')
      Object.assign(stepOf(design, 'coil').set, { closedStart: '0', closedEnd: '0' });
    const kept = await putOnShelf(design);
    id = kept.id;
    bench = openBench(kept);
    await until(() => bench.getState().drawn.size > 0);
  };
  const set = (step: string, field: string, text: string, group?: string) =>
    bench.getState().edit('set', (draft) => void (stepOf(draft, step).set[field] = text), group);
  afterEach(() => {
    globalThis.setTimeout = later;
    bench.close();
  });

  it('answers an edit with figures, a picture of what changed, and findings', async () => {
    await open('gate-spring');
    await until(() => bench.getState().checked.spring !== undefined);
    const material = () => {
      const drawn = bench.getState().drawn.get('spring')!;
      return drawn.type === 'body' && drawn.looks[0]!.look;
    };
    expect(material()).deep.equal(MATERIALS['spring-steel'].look);
    const before = bench.getState().drawn;
    set('spring', 'material', 'brass');
    await until(() => String(material()) === String(MATERIALS.brass.look));
    const after = bench.getState();
    // The coil is as it was: neither drawn again nor passed on again.
    expect(after.drawn.get('coil')).equal(before.get('coil'));
    // The picture does not wait for figures: until they come, the last ones stand, told to be the last.
    await until(() => bench.getState().seen?.steps.every(({ awaited }) => !awaited) ?? false);
    expect(figure(bench, 'spring', 'mass')! / figure(bench, 'spring', 'volume')!).closeTo(8.5e-3, 2e-4);
    await until(
      () => bench.getState().checked.spring?.findings.some(({ name }) => name === 'closed') ?? false,
    );
  });

  it('of many edits in a row the last is the one that stands', async () => {
    await open('gate-spring');
    for (let turns = 4; turns <= 9; turns += 0.1) set('coil', 'turns', turns.toFixed(1), 'turns');
    await until(
      () => Math.abs((figure(bench, 'coil', 'length') ?? 0) - Math.hypot(9 * Math.PI * 14.4, 32)) < 1e-6,
      () => figure(bench, 'coil', 'length'),
    );
    expect(bench.getState().history.past).lengthOf(1);
    bench.getState().undo();
    expect(stepOf(bench.getState().history.present, 'coil').set.turns).equal('7.5');
    await until(
      () => Math.abs(figure(bench, 'coil', 'length')! - Math.hypot(7.5 * Math.PI * 14.4, 32)) < 1e-6,
    );
    bench.getState().redo();
    expect(stepOf(bench.getState().history.present, 'coil').set.turns).equal('9.0');
  });

  it('a mistake leaves the last good picture standing, and what depends on it waits', async () => {
    await open('gate-spring');
    await until(() => figure(bench, 'spring', 'volume') !== undefined);
    const before = bench.getState().drawn.get('spring');
    set('coil', 'turns', '7.5 +');
    await until(() => bench.getState().seen?.steps.find((step) => step.id === 'coil')?.state === 'fault');
    expect(bench.getState().seen!.steps.find((step) => step.id === 'spring')!.state).equal('waiting');
    expect(bench.getState().drawn.get('spring')).equal(before);
    // Its last figures stay, as those of the part that is still shown.
    const waiting = bench.getState().seen!.steps.find((step) => step.id === 'spring')!;
    expect(waiting.awaited).equal(true);
    expect(waiting.results.map(({ name }) => name)).include('volume');
    expect(bench.getState().trouble).equal(undefined);
  });

  it('a step that is removed takes its picture with it', async () => {
    await open('gate-spring');
    bench
      .getState()
      .edit('remove', (draft) => void (draft.steps = draft.steps.filter((step) => step.id !== 'spring')));
    await until(() => !bench.getState().drawn.has('spring'));
    expect([...bench.getState().drawn.keys()]).members(['wire', 'coil']);
  });

  it('goes from a coarse picture to a fine one by itself', async () => {
    await open('gate-spring');
    const key = bench.getState().drawn.get('spring')!.key;
    await until(() => bench.getState().drawn.get('spring')!.key === `${key}!`);
  });

  it('is at work from an edit until figures, findings and the fine picture are there', async () => {
    await open('gate-spring');
    await until(() => !bench.getState().working);
    const before = bench.getState();
    // Two edits, the second while the first is worked at.
    set('coil', 'turns', '8');
    set('coil', 'turns', '9');
    expect(bench.getState().working).equal(true);
    await until(() => !bench.getState().working);
    const { seen, drawn, checked } = bench.getState();
    expect(seen!.steps.filter(({ awaited }) => awaited)).deep.equal([]);
    expect(figure(bench, 'duty', 'activeCoils')).equal(9);
    expect(drawn.get('spring')!.key).match(/!$/).not.equal(before.drawn.get('spring')!.key);
    expect(checked.spring).not.equal(before.checked.spring);
    // A short rod is checked sooner than its fine picture is asked for.
    set('coil', 'turns', '0.1');
    await until(() => !bench.getState().working);
    expect(bench.getState().drawn.get('spring')!.key).match(/!$/).not.equal(drawn.get('spring')!.key);
  });

  it('a worker that comes to no end is ended where newer edits wait for it', async () => {
    await open('gate-spring');
    await until(() => bench.getState().checked.spring !== undefined);
    losePatience();
    const stuck = HereWorker.latest.get('geometry')!;
    stuck.postMessage = () => undefined;
    set('coil', 'turns', '8');
    await new Promise((resolve) => setTimeout(resolve, 50));
    set('coil', 'turns', '9');
    await until(() => figure(bench, 'duty', 'activeCoils') === 9);
    expect(HereWorker.latest.get('geometry')).not.equal(stuck);
    expect(bench.getState().trouble).equal(undefined);
  });

  it('the picture does not wait for what takes long; that is ended too where it comes to no end', async () => {
    await open('gate-spring');
    await until(() => bench.getState().checked.spring !== undefined);
    losePatience();
    const stuck = HereWorker.latest.get('kernel')!;
    stuck.postMessage = () => undefined;
    const key = () => bench.getState().drawn.get('spring')!.key;
    for (const turns of ['8.13', '9.17']) {
      const before = key();
      set('coil', 'turns', turns);
      await until(() => key() !== before);
      expect(HereWorker.latest.get('kernel')).equal(stuck);
    }
    await until(() => bench.getState().seen!.steps.every(({ awaited }) => !awaited));
    expect(HereWorker.latest.get('kernel')).not.equal(stuck);
    expect(bench.getState().trouble).equal(undefined);
  });

  it('what the worker broke down over is told, and the next edit starts another', async () => {
    await open('gate-spring');
    const broken = HereWorker.latest.get('geometry')!;
    broken.postMessage = () => undefined;
    set('coil', 'turns', '8');
    broken.breakDown('out of memory');
    await until(() => bench.getState().trouble !== undefined);
    expect(bench.getState().trouble).match(/^The calculation stopped: out of memory/);
    expect(bench.getState().working).equal(false);
    set('coil', 'turns', '8.5');
    await until(() => bench.getState().trouble === undefined);
    expect(HereWorker.latest.get('geometry')).not.equal(broken);
    await until(
      () => Math.abs(figure(bench, 'coil', 'length')! - Math.hypot(8.5 * Math.PI * 14.4, 32)) < 1e-6,
    );
  });

  it('a step more is chosen, or let go again; the last one chosen is worked on', () => {
    const one = selecting('wire');
    const two = alsoSelecting(one, 'coil');
    expect(two.selection.map(({ step }) => step)).deep.equal(['wire', 'coil']);
    expect(chosenStep(two)).equal('coil');
    expect(alsoSelecting(two, 'coil')).deep.equal(one);
    expect(chosenStep(alsoSelecting({}, 'wire'))).equal('wire');
  });

  it('keeps what was done: soon, or at once when the page goes', async () => {
    await open('gate-spring');
    set('coil', 'turns', '8');
    expect(bench.getState().saved).equal('saving');
    await until(() => bench.getState().saved === 'saved');
    expect((await fetchKept(id))!.history.present.steps[1]!.set.turns).equal('8');
    set('coil', 'turns', '9');
    page.dispatchEvent(new Event('pagehide'));
    bench.getState().look({ selection: [{ step: 'wire' }] });
    await until(() => bench.getState().saved === 'saved');
    const kept = (await fetchKept(id))!;
    expect(kept.history.present.steps[1]!.set.turns).equal('9');
    expect(kept.history.past).lengthOf(2);
  });

  it('takes up what another tab has kept, unless its own is newer', async () => {
    await open('gate-spring');
    const elsewhere = async (turns: string, changed: number) => {
      const kept = (await fetchKept(id))!;
      const history = edit(kept.history, 'elsewhere', (draft) => void (draft.steps[1]!.set.turns = turns));
      await keep({ ...kept, history, changed });
      // As the other tab would tell it: keep() here is heard as this tab's own.
      const tabs = new BroadcastChannel('nematos:kept');
      tabs.postMessage({ id, tab: 'another tab' });
      tabs.close();
    };
    const turns = () => stepOf(bench.getState().history.present, 'coil').set.turns;
    await elsewhere('6', Date.now() + 1000);
    await until(() => turns() === '6');
    await until(() => Math.abs(figure(bench, 'coil', 'length')! - Math.hypot(6 * Math.PI * 14.4, 32)) < 1e-6);
    bench.getState().undo();
    expect(turns()).equal('7.5');
    await elsewhere('5', Date.now() - 1000);
    await new Promise((resolve) => setTimeout(resolve, 60));
    expect(turns()).equal('7.5');
  });

  it('charts the path of the chosen step, of the body it carries, or of a body whose section changes', async () => {
    await open('lid-clasp');
    const charted = (selected: string) => {
      bench.getState().look({ lengthwise: true, ...selecting(selected) });
      return chartedStep(bench.getState());
    };
    expect(charted('bend')).equal('bend');
    expect(charted('round')).equal('bend');
    expect(charted('clasp')).equal('clasp');
    await until(() => bench.getState().charts?.step === 'clasp');
    const { data } = bench.getState().charts!;
    const widths = data.channels.find(({ name }) => name === 'sectionWidth')!.values;
    // The wire is 2.4 mm, and 2.2 times that under the thumb.
    expect(Math.max(...widths)).closeTo(2.2 * 2.4, 1e-3);
    expect(Math.min(...widths)).closeTo(2.4, 1e-3);
    bench.getState().look({ lengthwise: false });
    expect(chartedStep(bench.getState())).equal(undefined);
  });

  it('shows as many steps as the needle has passed', async () => {
    await open('lid-clasp');
    expect(shownCount(bench.getState())).equal(3);
    bench.getState().look({ needle: 2 });
    expect(shownCount(bench.getState())).equal(2);
    bench.getState().look({ needle: 9 });
    expect(shownCount(bench.getState())).equal(3);
  });
});
