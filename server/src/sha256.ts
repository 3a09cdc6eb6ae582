import { Worker } from 'node:worker_threads';

/** A thread of its own: hashing takes a third of what a delivery costs, and meanwhile nothing else would go on. */
const thread = `
const { parentPort } = require('node:worker_threads');
const { createHash } = require('node:crypto');
const open = new Map();
parentPort.on('message', ({ id, chunk, end }) => {
  if (chunk) {
    if (!open.has(id)) open.set(id, createHash('sha256'));
    open.get(id).update(chunk);
    parentPort.postMessage({ id, done: chunk.length });
  } else {
    const hash = open.get(id) ?? createHash('sha256');
    open.delete(id);
    if (end) parentPort.postMessage({ id, digest: hash.digest('hex') });
  }
});`;
/** So much may wait to be hashed, bytes: whoever brings more is held back. */
const mostWaiting = 1 << 20;

interface Open {
  waiting: number;
  hear: (digest: string | null, error?: Error) => void;
}
let worker: Worker | null = null;
const opens = new Map<number, Open>();
let lastId = 0;

/** The thread, which holds the process as long as something is open. */
function hasher(): Worker {
  worker ??= begun();
  worker.ref();
  return worker;
}

function ended(id: number): boolean {
  const was = opens.delete(id);
  if (!opens.size) worker?.unref();
  return was;
}

function begun(): Worker {
  const own = new Worker(thread, { eval: true });
  own.on('message', ({ id, done, digest }: { id: number; done?: number; digest?: string }) => {
    const one = opens.get(id);
    if (!one) return;
    one.waiting -= done ?? 0;
    one.hear(digest ?? null);
  });
  const gone = (error?: Error) => {
    if (worker === own) worker = null;
    for (const one of opens.values()) one.hear(null, error ?? new Error('The thread that hashes has ended'));
    opens.clear();
  };
  own.on('error', gone).on('exit', () => gone());
  return own;
}

/** SHA-256 (FIPS 180-4) of what comes piece by piece, worked out in another thread. */
export class Sha256 {
  private readonly id = ++lastId;
  private failed: Error | null = null;
  private wake: (() => void) | null = null;
  private found: string | null = null;
  private readonly open: Open = {
    waiting: 0,
    hear: (digest, error) => {
      if (error) this.failed = error;
      if (digest) this.found = digest;
      this.wake?.();
    },
  };

  constructor() {
    opens.set(this.id, this.open);
  }

  /** Ends once there is room for more. @throws where the thread has ended. */
  async update(chunk: Uint8Array): Promise<void> {
    const copy = Uint8Array.from(chunk);
    this.open.waiting += copy.length;
    hasher().postMessage({ id: this.id, chunk: copy }, [copy.buffer]);
    while (this.open.waiting > mostWaiting && !this.failed) await this.heard();
    if (this.failed) throw this.failed;
  }

  /** In hexadecimal; nothing can be added afterwards. */
  async digest(): Promise<string> {
    if (!this.failed) hasher().postMessage({ id: this.id, end: true });
    while (!this.found && !this.failed) await this.heard();
    ended(this.id);
    if (this.failed) throw this.failed;
    return this.found!;
  }

  /** For what is given up. */
  drop(): void {
    if (ended(this.id)) worker?.postMessage({ id: this.id });
  }

  private heard(): Promise<void> {
    return new Promise((resolve) => (this.wake = resolve));
  }
}
