import { expect } from 'chai';
import { edit, undo, type History } from '@nematos/core/design/history';
import { emptyDesign, type Design } from '@nematos/core/design/schema';
import { box, withPage } from './a-browser';

const {
  amend,
  dropAside,
  fetchAside,
  fetchLatest,
  fetchKept,
  fetchShelf,
  keep,
  keepPicture,
  fetchPicture,
  onKeptElsewhere,
  putBack,
  putJournal,
  putOnShelf,
  writeJournal,
} = await import('../src/data/store');

const { box: opened } = await import('../src/data/box');
const { DesignKeeper } = await import('../src/bench/keeper');

const named = (design: Design, name: string): Design => ({ ...design, name });
const DAY = 24 * 3600 * 1000;

describe('what is kept in the browser', () => {
  it('comes back with its whole past', async () => {
    const kept = await putOnShelf(emptyDesign('Kept'));
    const history = edit(kept.history, 'rename', (draft) => void (draft.name = 'Kept well'));
    await keep({ ...kept, history, changed: kept.changed + 1 });
    const back = (await fetchKept(kept.id))!;
    expect(back.history.present.name).equal('Kept well');
    expect(undo(back.history).present.name).equal('Kept');
  });

  it('is heard of where another tab keeps it, not where this one does', async () => {
    const kept = await putOnShelf(emptyDesign('Heard'));
    const heard: string[] = [];
    const forget = onKeptElsewhere(
      kept.id,
      () => void fetchLatest(kept.id).then((one) => heard.push(one!.history.present.name)),
    );
    await keep({ ...kept, history: edit(kept.history, 'rename', (draft) => void (draft.name = 'Mine')) });
    const other = new BroadcastChannel('nematos:kept');
    other.postMessage({ id: 'another design', tab: 'another tab' });
    other.postMessage({ id: kept.id, tab: 'another tab' });
    await new Promise((resolve) => setTimeout(resolve, 100));
    expect(heard).deep.equal(['Mine']);
    forget();
    other.postMessage({ id: kept.id, tab: 'another tab' });
    await new Promise((resolve) => setTimeout(resolve, 50));
    expect(heard).lengthOf(1);
    other.close();
  });

  it('an edit that only reached the journal is found, and can be taken back', async () => {
    const kept = await putOnShelf(emptyDesign('Before'));
    writeJournal(kept.id, named(kept.history.present, 'After'), kept.changed + 5);
    const back = (await fetchKept(kept.id))!;
    expect(back.history.present.name).equal('After');
    expect(undo(back.history).present.name).equal('Before');
    expect(back.changed).equal(kept.changed + 5);
    expect((await fetchShelf()).find(({ id }) => id === kept.id)!.history.present.name).equal('After');
  });

  it('a journal older than what is kept is not taken up, and is cleared when kept', async () => {
    const kept = await putOnShelf(emptyDesign('Newer'));
    writeJournal(kept.id, named(kept.history.present, 'Older'), kept.changed - 5);
    expect((await fetchKept(kept.id))!.history.present.name).equal('Newer');
    await keep(kept);
    expect([...box.held.keys()].some((key) => key.includes(kept.id))).equal(false);
  });

  it('a journal written after the copy that is being kept stays', async () => {
    const kept = await putOnShelf(emptyDesign('First'));
    writeJournal(kept.id, named(kept.history.present, 'Second'), kept.changed + 9);
    await keep({ ...kept, changed: kept.changed + 1 });
    expect((await fetchKept(kept.id))!.history.present.name).equal('Second');
  });

  it('a broken journal, or no room for one, loses nothing that is kept', async () => {
    const kept = await putOnShelf(emptyDesign('Whole'));
    box.setItem(`nematos:journal:${kept.id}`, '{"stamp":');
    expect((await fetchKept(kept.id))!.history.present.name).equal('Whole');
    box.full = true;
    expect(() => writeJournal(kept.id, kept.history.present, kept.changed + 1)).not.to.throw();
    box.full = false;
  });

  it('stands on the shelf by its last change; what was taken off long ago is gone for good', async () => {
    const now = Date.now();
    const [old, young, gone] = [
      await putOnShelf(emptyDesign('Old'), now - 10 * DAY),
      await putOnShelf(emptyDesign('Young'), now + DAY),
      await putOnShelf(emptyDesign('Gone'), now - 40 * DAY),
    ];
    await keepPicture(gone.id, now, 'light', new Blob(['png']));
    await amend(gone.id, (kept) => ({ ...kept, removed: now - 31 * DAY }));
    await amend(old.id, (kept) => ({ ...kept, removed: now - 29 * DAY }));
    const shelf = await fetchShelf();
    expect(shelf[0]!.id).equal(young.id);
    expect(shelf.find(({ id }) => id === old.id)!.removed).equal(now - 29 * DAY);
    expect(shelf.some(({ id }) => id === gone.id)).equal(false);
    expect(await fetchKept(gone.id)).equal(undefined);
    expect(await fetchPicture(gone.id)).equal(undefined);
  });

  it('what was taken off and is still worked on stays for 30 days after its last change', async () => {
    const now = Date.now();
    const kept = await putOnShelf(emptyDesign('Worked on'), now - 90 * DAY);
    await amend(kept.id, (there) => ({ ...there, removed: now - 60 * DAY }));
    // By its address, or in a tab that was open all the while.
    const change = async (days: number) =>
      keep(
        {
          ...kept,
          history: edit(kept.history, 'x', (draft) => void (draft.note = `${days}`)),
          changed: now - days * DAY,
        },
        kept,
      );
    await change(29);
    expect((await fetchShelf()).find(({ id }) => id === kept.id)!.removed).equal(now - 60 * DAY);
    // What only the journal has counts as well.
    const other = await putOnShelf(emptyDesign('In the journal'), now - 90 * DAY);
    await amend(other.id, (there) => ({ ...there, removed: now - 60 * DAY }));
    writeJournal(other.id, named(emptyDesign('x'), 'Newer'), now - DAY);
    expect((await fetchShelf()).find(({ id }) => id === other.id)!.history.present.name).equal('Newer');
    await putBack(kept.id);
    expect((await fetchKept(kept.id))!.removed).equal(undefined);
    const gone = await putOnShelf(emptyDesign('Gone'), now - 90 * DAY);
    await amend(gone.id, (there) => ({ ...there, removed: now - 31 * DAY }));
    writeJournal(gone.id, emptyDesign('Older'), now - 95 * DAY);
    await fetchShelf();
    expect(await fetchKept(gone.id)).equal(undefined);
    expect([...box.held.keys()].some((key) => key.includes(gone.id))).equal(false);
  });

  it('a design that only the journal has is found on the shelf', async () => {
    const id = crypto.randomUUID();
    writeJournal(id, emptyDesign('Made without a database'), 77);
    const found = (await fetchShelf()).find((kept) => kept.id === id)!;
    expect(found.history.present.name).equal('Made without a database');
    expect((await fetchLatest(id))!.changed).equal(77);
  });

  it('what is not there is not there', async () => {
    expect(await fetchKept('nowhere')).equal(undefined);
    await amend('nowhere', () => {
      throw new Error('amended nothing');
    });
  });

  it('a damaged record is set aside under its name, and the rest stands', async () => {
    const [good, bad] = [await putOnShelf(emptyDesign('Good')), await putOnShelf(emptyDesign('Bad one'))];
    const store = await opened();
    const raw = (await store.get('designs', bad.id)) as { history: { present: Record<string, unknown> } };
    raw.history.present.steps = [null];
    await store.put('designs', bad.id, raw);
    await store.put('designs', 'no record', 7);
    const shelf = await fetchShelf();
    expect(shelf.map(({ id }) => id))
      .include(good.id)
      .not.include(bad.id);
    const aside = (await fetchAside()).find(({ id }) => id === bad.id)!;
    expect(aside).deep.include({ name: 'Bad one', says: 'damaged at steps → 0', raw });
    expect((await fetchAside()).some(({ id }) => id === 'no record')).equal(true);
    await dropAside(bad.id);
    await dropAside('no record');
    expect((await fetchAside()).some(({ id }) => id === bad.id)).equal(false);
  });

  it('a damaged past is dropped, the design stays', async () => {
    const kept = await putOnShelf(emptyDesign('With a past'));
    const store = await opened();
    const raw = (await store.get('designs', kept.id)) as { history: { past: unknown[] } };
    raw.history.past = [{ says: 'x', changes: 3 }];
    await store.put('designs', kept.id, raw);
    const { history } = (await fetchKept(kept.id))!;
    expect(history.present.name).equal('With a past');
    expect(history.past).deep.equal([]);
  });

  it('a damaged journal is set aside too, and is asked no more', async () => {
    const kept = await putOnShelf(emptyDesign('Steady'));
    box.setItem(
      `nematos:journal:${kept.id}`,
      JSON.stringify({ stamp: kept.changed + 9, design: { name: 'Odd' } }),
    );
    await (await opened()).put('journals', kept.id, { stamp: 'late' });
    const back = (await fetchKept(kept.id))!;
    expect(back.history.present.name).equal('Steady');
    expect(back.journaled).equal(undefined);
    expect(box.getItem(`nematos:journal:${kept.id}`)).equal(null);
    const aside = (await fetchAside()).filter(({ id }) => id.startsWith(kept.id));
    expect(aside.map(({ name }) => name).sort()).deep.equal(['Odd', 'without a name']);
    for (const { id } of aside) await dropAside(id);
  });

  it('what only the disk has of the journal is found, and is said to be unkept', async () => {
    const kept = await putOnShelf(emptyDesign('Before'));
    await putJournal(kept.id, named(kept.history.present, 'On the disk'), kept.changed + 5);
    const back = (await fetchKept(kept.id))!;
    expect(back.history.present.name).equal('On the disk');
    expect(back.journaled).equal(true);
    await keep(back, back);
    expect((await fetchKept(kept.id))!.journaled).equal(undefined);
    expect(await (await opened()).get('journals', kept.id)).equal(undefined);
  });

  it('two tabs that keep what they did at once: both is kept', async () => {
    const kept = await putOnShelf({ ...emptyDesign('Two'), note: 'none' });
    const [one, other] = [
      edit(kept.history, 'Rename', (draft) => void (draft.name = 'One')),
      edit(kept.history, 'Note', (draft) => void (draft.note = 'Other')),
    ];
    await Promise.all([one, other].map((history) => keep({ ...kept, history }, kept)));
    const { history } = (await fetchKept(kept.id))!;
    expect(history.present).deep.include({ name: 'One', note: 'Other' });
    expect(undo(undo(history)).present).deep.equal(kept.history.present);
  });

  it('a design taken off the shelf stays off while an open workbench keeps it', async () => {
    const kept = await putOnShelf(emptyDesign('Off'));
    await amend(kept.id, (there) => ({ ...there, removed: 99 }));
    await keep(
      { ...kept, history: edit(kept.history, 'x', (draft) => void (draft.name = 'Still off')) },
      kept,
    );
    expect(await fetchKept(kept.id)).deep.include({ removed: 99 });
    expect((await fetchKept(kept.id))!.history.present.name).equal('Still off');
  });
});

describe('the keeper of a workbench', () => {
  withPage();

  /** A keeper, and the workbench it keeps. */
  async function kept(name: string) {
    const begun = await putOnShelf({ ...emptyDesign(name), note: '' });
    const bench = { history: begun.history, saved: [] as string[] };
    const keeper = new DesignKeeper(begun, {
      state: () => ({ history: bench.history, view: {} }),
      saved: (saved) => bench.saved.push(saved),
      elsewhere: (history: History) => void (bench.history = history),
      removed: () => undefined,
    });
    const act = (recipe: (draft: Design) => void) => {
      bench.history = edit(bench.history, 'act', recipe);
      keeper.edited(bench.history.present);
    };
    return { begun, bench, keeper, act };
  }
  const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

  it('has on the disk, while the hand never rests, what is a quarter of a second old', async () => {
    const { begun, keeper, act } = await kept('Restless');
    const store = await opened();
    // Counted in edits, 15 ms or more apart: if the machine pauses, so does the hand.
    let oldest = 0;
    for (let i = 1; i <= 100; i++) {
      act((draft) => void (draft.name = `Restless ${i}`));
      await pause(15);
      const journal = (await store.get('journals', begun.id)) as { design: Design } | undefined;
      const record = (await store.get('designs', begun.id)) as { history: History };
      const stamps = [journal?.design.name, record.history.present.name].map(
        (one) => Number(one?.split(' ')[1]) || 0,
      );
      if (i > 20) oldest = Math.max(oldest, i - Math.max(...stamps));
    }
    keeper.close();
    expect(15 * oldest).within(15, 250);
    await pause(50);
  });

  it('takes up what another tab has kept beside what is still to be kept here', async () => {
    const { begun, bench, keeper, act } = await kept('Tab');
    act((draft) => void (draft.name = 'Mine'));
    // Another tab, before this one has kept.
    await keep(
      { ...begun, history: edit(begun.history, 'note', (draft) => void (draft.note = 'Theirs')) },
      begun,
    );
    await pause(400);
    expect(bench.history.present).deep.include({ name: 'Mine', note: 'Theirs' });
    expect((await fetchKept(begun.id))!.history.present).deep.include({ name: 'Mine', note: 'Theirs' });
    expect(bench.saved.at(-1)).equal('saved');
    keeper.close();
  });

  it('says that what the journal alone had is not kept, until it is', async () => {
    const begun = await putOnShelf(emptyDesign('Before'));
    writeJournal(begun.id, named(begun.history.present, 'After'), begun.changed + 5);
    const found = (await fetchKept(begun.id))!;
    const saved: string[] = [];
    const keeper = new DesignKeeper(found, {
      state: () => ({ history: found.history, view: {} }),
      saved: (one) => saved.push(one),
      elsewhere: () => undefined,
      removed: () => undefined,
    });
    await pause(400);
    expect(saved).deep.equal(['saving', 'saved']);
    expect((await fetchKept(begun.id))!.journaled).equal(undefined);
    keeper.close();
  });
});
