import type { Page } from '@libretto/model';
import { learnPhoto } from '../store/editing';
import { putPhoto } from '../store/files';
import { newId } from '../store/ids';
import { filePicture, savePicture, type SavedPicture } from '../store/keeping';
import { noticed } from '../store/session';
import type { AppDispatch, RootState } from '../store/store';
import { untilSaved } from '../store/unsaved';
import { sayCode, say } from '../ui/words/words';
import { bringIn, keepingProblem } from '../work/importing';
import { lookAtPages } from '../work/looking';
import { WorkProblem } from '../work/problem';
import type { RunningCamera } from './camera/camera';
import { betterStill, type Judgement } from './camera/moment';

/** A picture that was taken and does not stand in its document yet. */
export interface Shot {
  key: number;
  /** What the camera showed when the shutter went, small. */
  glimpse: HTMLCanvasElement | null;
  insteadOf?: string;
  /** Its bytes lie on the disk, as those of this page. */
  saved: boolean;
  pageId?: string;
}

export interface RunState {
  /** The document that the run's pages go into, once there is one. */
  documentId: string | null;
  shots: readonly Shot[];
  /** How many were taken, and how many of them are saved. */
  taken: number;
  saved: number;
}

export interface Shutter {
  camera: Pick<RunningCamera, 'still'>;
  judge: (still: Blob) => Promise<Judgement>;
  glimpse: HTMLCanvasElement | null;
  insteadOf?: string | undefined;
}

/** What takes longer than this is given up, and said, ms. */
const longest = { still: 60_000, save: 120_000, better: 10_000, close: 60_000 };

/**
 * A run of shots into one document, apart from any screen. The first still of a shot is saved at once, before anybody judges it; a better one of the
 * same moment takes its place. Pages stand in the order in which they were taken. The camera is closed only once all that was asked of it is there.
 */
export class CaptureRun {
  private state: RunState;
  private readonly listeners = new Set<() => void>();
  /** Shots are filed one after the other, saved or not in whatever order. */
  private filing: Promise<unknown> = Promise.resolve();
  private readonly exposing = new Set<Promise<unknown>>();
  private readonly under = new Set<Promise<unknown>>();
  private count = 0;
  /** When the camera gave a still last. */
  private givenMs = 0;
  /** What the camera showed for a page of this run, until its finished picture is there. */
  readonly glimpses = new Map<string, HTMLCanvasElement>();

  constructor(
    private readonly dispatch: AppDispatch,
    private readonly getState: () => RootState,
    into: string | null,
    /** The page before which all of it stands. */
    private readonly before: string | null = null,
  ) {
    this.state = { documentId: into, shots: [], taken: 0, saved: 0 };
  }

  readonly get = (): RunState => this.state;
  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };
  private set(change: Partial<RunState>): void {
    this.state = { ...this.state, ...change };
    this.listeners.forEach((listener) => listener());
  }

  private place() {
    return this.before ? { before: this.before } : {};
  }

  /** The document of the run; a new one where there is none, or it is in the bin. */
  private document(): string {
    const { documentId } = this.state;
    if (documentId && !this.getState().library.summary[documentId]?.deletedAt) return documentId;
    const id = newId();
    this.set({ documentId: id });
    return id;
  }

  /** Takes a picture; the shutter waits for nothing. Resolves with the page once it stands in its document, or null when that failed, which was said. */
  take({ camera, judge, glimpse, insteadOf }: Shutter): Promise<Page | null> {
    const began = performance.now();
    const shot: Shot = { key: this.count++, glimpse, saved: false, ...(insteadOf && { insteadOf }) };
    const documentId = this.document();
    this.set({ shots: [...this.state.shots, shot], taken: this.state.taken + 1 });
    performance.mark?.('libretto-shutter');
    const still = this.patient(camera.still());
    this.exposes(still);
    const saving = still.then(async (blob) => {
      performance.mark?.('libretto-still');
      const name = `${new Date().toISOString().slice(0, 19).replace(/[:T]/g, '-')}.jpg`;
      const type = blob.type === 'image/png' || blob.type === 'image/webp' ? blob.type : 'image/jpeg';
      const saved = await within(
        this.dispatch(savePicture(documentId, { blob, name, type }, insteadOf ? { insteadOf: { id: insteadOf } } : this.place())),
        longest.save,
      );
      performance.mark?.('libretto-saved');
      this.change(shot, { saved: true, pageId: saved.page.id });
      this.set({ saved: this.state.saved + 1 });
      const better = within(betterStill(camera, judge, blob, began), longest.better).catch(() => null);
      this.exposes(better);
      return { saved, better };
    });
    // Begun one after the other, which is the order in which they are stored; those that wait share a transaction.
    const begun = Promise.all([saving, this.filing]).then(([{ saved, better }]) => {
      if (glimpse) this.glimpses.set(saved.page.id, glimpse);
      return { saved, better, filed: this.dispatch(filePicture(saved)) };
    });
    this.filing = begun.catch(() => {});
    const filing = begun.then(async ({ saved, better, filed }) => {
      if (!(await filed)) throw new WorkProblem('not-stored');
      this.remove(shot);
      void this.finish(saved, better);
      return saved.page;
    });
    const done = filing.catch((error: unknown) => {
      this.remove(shot);
      this.set({ taken: this.state.taken - 1 });
      const reason = sayCode(say, 'problem', keepingProblem(error));
      this.dispatch(noticed({ code: 'notice.notKept', values: { reason } }));
      return null;
    });
    this.tracks(done);
    return untilSaved(done);
  }

  /** The best still of the moment becomes the photo; then its page is looked for. */
  private async finish({ photo }: SavedPicture, better: Promise<Blob | null>): Promise<void> {
    const still = await better;
    if (still)
      try {
        await putPhoto({ ...photo, bytes: still.size }, still);
        await this.dispatch(learnPhoto(photo, { bytes: still.size }));
      } catch {
        // The first one is saved: it stays.
      }
    void this.dispatch(lookAtPages([photo.documentId]));
  }

  /** Files come in as pages of the run, after what was taken before. */
  add(files: readonly File[]): Promise<void> {
    const added = this.filing.then(async () => {
      const known = this.state.documentId;
      const there = known && this.getState().library.summary[known] && !this.getState().library.summary[known].deletedAt;
      const id = await this.dispatch(bringIn(files, there ? known : null, this.place()));
      if (id) this.set({ documentId: id });
    });
    this.filing = added.catch(() => {});
    this.tracks(added);
    return added;
  }

  /** A still of a camera that may have others to give first: it is given up only when the camera has given none for too long. */
  private patient(still: Promise<Blob>): Promise<Blob> {
    const askedMs = performance.now();
    let timer: ReturnType<typeof setInterval> | undefined;
    const late = new Promise<never>((_resolve, reject) => {
      timer = setInterval(() => {
        if (performance.now() - Math.max(askedMs, this.givenMs) > longest.still) reject(new WorkProblem('timed-out'));
      }, 500);
    });
    return Promise.race([still, late]).finally(() => {
      this.givenMs = performance.now();
      clearInterval(timer);
    });
  }

  private exposes(work: Promise<unknown>): void {
    const mark = work.catch(() => {}).finally(() => this.exposing.delete(mark));
    this.exposing.add(mark);
  }
  private tracks(work: Promise<unknown>): void {
    const mark = work.catch(() => {}).finally(() => this.under.delete(mark));
    this.under.add(mark);
  }

  /** Resolves when the camera has given all that was asked of it: then it may be closed. */
  async exposed(): Promise<void> {
    await within(settled(this.exposing), longest.close).catch(() => {});
  }
  /** Resolves when every shot stands in its document, or was said to have failed. */
  async filed(): Promise<void> {
    await settled(this.under);
  }

  private change(shot: Shot, change: Partial<Shot>): void {
    this.set({ shots: this.state.shots.map((s) => (s.key === shot.key ? { ...s, ...change } : s)) });
  }
  private remove(shot: Shot): void {
    this.set({ shots: this.state.shots.filter((s) => s.key !== shot.key) });
  }
}

/** All of a set that may still grow. */
async function settled(set: ReadonlySet<Promise<unknown>>): Promise<void> {
  while (set.size) await Promise.all(set);
}

function within<T>(work: Promise<T>, ms: number): Promise<T> {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const late = new Promise<never>((_resolve, reject) => {
    timer = setTimeout(() => reject(new WorkProblem('timed-out')), ms);
  });
  return Promise.race([work, late]).finally(() => clearTimeout(timer));
}
