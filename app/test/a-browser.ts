/** What the application finds in a browser and Node does not have, as far as its logic needs it. */
import * as database from 'fake-indexeddb';

/** A little box of texts, which can be full. */
class Box {
  readonly held = new Map<string, string>();
  full = false;
  get length() {
    return this.held.size;
  }
  key = (i: number) => [...this.held.keys()][i] ?? null;
  getItem = (key: string) => this.held.get(key) ?? null;
  removeItem = (key: string) => void this.held.delete(key);
  setItem(key: string, text: string) {
    if (this.full) throw new Error('full');
    this.held.set(key, text);
  }
}
export const box = new Box();

/** The page, of which only its going away matters. */
export const page = Object.assign(new EventTarget(), { visibilityState: 'visible' });

/** The page stands while a suite runs: packages that other tests load take a process with one for a browser. */
export function withPage(): void {
  before(() => Object.assign(globalThis, { window: page, document: page }));
  after(() => {
    for (const name of ['window', 'document']) Reflect.deleteProperty(globalThis, name);
  });
}

type Listener = (event: { data: unknown; origin?: string }) => void;
let hear: Listener | undefined;
/** Where the answer to each question goes: by the number that both bear. */
const asked = new Map<string, MessagePort>();

/** The geometry worker, its module in this thread, reached by messages as if it were not; several are one. */
export class HereWorker extends EventTarget {
  /** The latest of each name. */
  static readonly latest = new Map<string, HereWorker>();
  private readonly ours: MessagePort;

  constructor(_url: URL, { name }: { name: string }) {
    super();
    HereWorker.latest.set(name, this);
    const { port1, port2 } = new MessageChannel();
    this.ours = port1;
    const ready = import('../src/worker/geometry');
    port2.onmessage = ({ data }: MessageEvent<{ id: string }>) => {
      asked.set(data.id, port2);
      void ready.then(() => hear?.({ data }));
    };
    for (const port of [port1, port2] as unknown as { unref(): void }[]) port.unref();
  }
  postMessage = (message: unknown, transfer: Transferable[] = []) => this.ours.postMessage(message, transfer);
  override addEventListener(type: string, listener: unknown): void {
    if (type === 'message') this.ours.addEventListener('message', listener as EventListener);
    else super.addEventListener(type, listener as EventListener);
    this.ours.start();
    (this.ours as unknown as { unref(): void }).unref();
  }
  override removeEventListener(type: string, listener: unknown): void {
    if (type === 'message') this.ours.removeEventListener('message', listener as EventListener);
    else super.removeEventListener(type, listener as EventListener);
  }
  terminate = () => this.ours.close();
  /** As when it runs out of memory. */
  breakDown(message: string): void {
    this.dispatchEvent(Object.assign(new Event('error'), { message }));
  }
}

// Its own way of doing this goes astray where another test has left a window standing.
Object.assign(globalThis, database, {
  localStorage: box,
  Worker: HereWorker,
  // What a worker finds: its end of the messages.
  addEventListener: (type: string, listener: Listener) => {
    if (type === 'message') hear = listener;
  },
  removeEventListener: () => undefined,
  postMessage: (message: { id: string }, transfer: Transferable[] = []) => {
    asked.get(message.id)?.postMessage(message, transfer);
    asked.delete(message.id);
  },
});
