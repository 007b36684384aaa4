import { expect } from 'chai';
import { edit, undo } from '@nematos/core/design/history';
import { emptyDesign, type Design } from '@nematos/core/design/schema';
import { box } from './a-browser';

const {
  amend,
  fetchKept,
  fetchShelf,
  keep,
  keepPicture,
  fetchPicture,
  onKeptElsewhere,
  putOnShelf,
  writeJournal,
} = await import('../src/data/store');

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
    const forget = onKeptElsewhere(kept.id, ({ history }) => heard.push(history.present.name));
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
      await putOnShelf(emptyDesign('Gone'), now),
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

  it('what is not there is not there', async () => {
    expect(await fetchKept('nowhere')).equal(undefined);
    await amend('nowhere', () => {
      throw new Error('amended nothing');
    });
  });
});
