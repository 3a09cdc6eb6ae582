import { priority, WorkerPool, wasCancelled } from './pool';

interface Api {
  work(name: string): Promise<string>;
}

/** A worker that answers Comlink's calls by a script: "name" → value, "crash", or never. */
class ScriptedWorker {
  static made = 0;
  static log: string[] = [];
  onerror: ((event: { message: string }) => void) | null = null;
  private listeners = new Set<(event: { data: unknown }) => void>();
  stopped = false;
  constructor(private readonly behave: (name: string) => 'answer' | 'crash' | 'hang') {
    ScriptedWorker.made++;
  }
  addEventListener(_type: string, listener: (event: { data: unknown }) => void) {
    this.listeners.add(listener);
  }
  removeEventListener(_type: string, listener: (event: { data: unknown }) => void) {
    this.listeners.delete(listener);
  }
  postMessage(message: { id: string; argumentList: { value: string }[] }) {
    const name = message.argumentList[0]!.value;
    ScriptedWorker.log.push(name);
    const how = this.behave(name);
    setTimeout(() => {
      if (this.stopped || how === 'hang') return;
      if (how === 'crash') this.onerror?.({ message: 'out of memory' });
      else for (const listener of this.listeners) listener({ data: { id: message.id, type: 'RAW', value: `done ${name}` } });
    }, 5);
  }
  terminate() {
    this.stopped = true;
  }
}

function pool(size: number, behave: (name: string) => 'answer' | 'crash' | 'hang' = () => 'answer', longestMs = 500) {
  ScriptedWorker.made = 0;
  ScriptedWorker.log = [];
  return new WorkerPool<Api>(() => new ScriptedWorker(behave) as unknown as Worker, size, longestMs);
}

const run = (p: WorkerPool<Api>, name: string, rank: number = priority.look, signal?: AbortSignal) =>
  p.run((api) => api.work(name), rank, signal);

test('what is on screen goes before what was asked earlier', async () => {
  const p = pool(1);
  await Promise.all([run(p, 'a'), run(p, 'b', priority.ahead), run(p, 'c'), run(p, 'd', priority.onScreen)]);
  expect(ScriptedWorker.log).toEqual(['a', 'd', 'c', 'b']);
  expect(ScriptedWorker.made).toBe(1);
});

test('as many workers as allowed, no more', async () => {
  const p = pool(2);
  await Promise.all(['a', 'b', 'c', 'd'].map((n) => run(p, n)));
  expect(ScriptedWorker.made).toBe(2);
});

test('a crashed worker is replaced and its job tried once more', async () => {
  let crashes = 0;
  const p = pool(1, (name) => (name === 'a' && crashes++ === 0 ? 'crash' : 'answer'));
  await expect(Promise.all([run(p, 'a'), run(p, 'b')])).resolves.toEqual(['done a', 'done b']);
  expect(ScriptedWorker.made).toBe(2);
});

test('a job that crashes twice fails and does not take the others with it', async () => {
  const p = pool(1, (name) => (name === 'bad' ? 'crash' : 'answer'));
  const bad = run(p, 'bad');
  const good = run(p, 'good');
  await expect(bad).rejects.toThrow('out of memory');
  await expect(good).resolves.toBe('done good');
});

test('a job that overruns its time is given up after a second try', async () => {
  const p = pool(1, () => 'hang', 30);
  await expect(run(p, 'slow')).rejects.toThrow('too long');
  expect(ScriptedWorker.log).toEqual(['slow', 'slow']);
});

test('a cancelled job leaves the queue', async () => {
  const p = pool(1);
  const stop = new AbortController();
  const first = run(p, 'a');
  const second = run(p, 'b', priority.look, stop.signal);
  stop.abort();
  await second.catch((error) => expect(wasCancelled(error)).toBe(true));
  await first;
  expect(ScriptedWorker.log).toEqual(['a']);
});

test('a worker that has nothing to do is asked to let go of what it holds; one that is busy again is not', async () => {
  ScriptedWorker.made = 0;
  let rested = 0;
  const p = new WorkerPool<Api>(() => new ScriptedWorker(() => 'answer') as unknown as Worker, 1, 500, {
    afterMs: 40,
    rest: () => rested++,
  });
  await run(p, 'a');
  await run(p, 'b');
  expect(rested).toBe(0);
  await new Promise((resolve) => setTimeout(resolve, 120));
  expect(rested).toBe(1);
});
