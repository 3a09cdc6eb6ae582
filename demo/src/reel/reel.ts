import { usualCamera, usualLight } from '../photographs';
import { sheets } from '../sheets/sheets';
import { random } from '../scene/noise';
import type { LaidSheet, Scene } from '../scene/scene';
import type { Act, ReelPlan } from './acts';

/** A sheet in a reel's scene, without its picture: whoever renders it has that. */
export type ReelSheet = Omit<LaidSheet, 'picture'>;
export interface ReelScene extends Omit<Scene, 'sheets'> {
  sheets: readonly ReelSheet[];
  /** Blur as a share of the picture's longer side. */
  blur: number;
}

/** Where a reel stands: which act, and whether its sheet lies free of trouble. */
export interface ReelMoment {
  act: number;
  state: 'coming' | 'troubled' | 'lying' | 'over';
}

const comingMs = 650;
/** A patient hand gives up after this long. */
const longestMs = 180_000;
const beforeMs = 500;

/**
 * The scenes before a stand-in camera: sheets come, lie, are turned and go, in a hand that trembles. Time is given to it, so that a
 * script runs the same however fast it is shown.
 */
export class Reel {
  private index = -1;
  private beganMs = 0;
  private takenMs: number | null = null;
  private readonly phases: number[];

  constructor(readonly plan: ReelPlan) {
    const next = random(plan.seed);
    this.phases = Array.from({ length: 12 }, () => next() * 2 * Math.PI);
  }

  /** The shutter was heard. */
  taken(nowMs: number): void {
    if (this.moment(nowMs).state !== 'coming') this.takenMs ??= nowMs;
  }

  moment(nowMs: number): ReelMoment {
    this.step(nowMs);
    if (this.index < 0) return { act: 0, state: 'coming' };
    const act = this.act(this.index);
    if (!act) return { act: this.index, state: 'over' };
    const t = nowMs - this.beganMs;
    if (t < comingMs) return { act: this.index, state: 'coming' };
    return { act: this.index, state: t < comingMs + (act.troubleMs ?? 0) ? 'troubled' : 'lying' };
  }

  private act(index: number): Act | undefined {
    const { acts, round } = this.plan;
    return index < 0 ? undefined : round ? acts[index % acts.length] : acts[index];
  }

  /** Goes on to the next act when this one has had its time. */
  private step(nowMs: number): void {
    if (this.index < 0) {
      if (nowMs >= beforeMs) this.begin(0, beforeMs);
      return;
    }
    for (;;) {
      const act = this.act(this.index);
      if (!act) return;
      const free = this.beganMs + comingMs + (act.troubleMs ?? 0);
      const end = this.plan.patient
        ? this.takenMs === null
          ? this.beganMs + longestMs
          : Math.max(free, this.takenMs) + act.lyingMs
        : free + act.lyingMs;
      if (nowMs < end) return;
      this.begin(this.index + 1, end);
    }
  }

  private begin(index: number, atMs: number): void {
    this.index = index;
    this.beganMs = atMs;
    this.takenMs = null;
  }

  scene(nowMs: number): ReelScene {
    this.step(nowMs);
    const act = this.act(this.index);
    const before = this.act(this.index - 1);
    const t = nowMs - this.beganMs;
    const come = Math.max(0, Math.min(1, t / comingMs));
    const troubled = act && act.trouble && t < comingMs + (act.troubleMs ?? 0) ? act.trouble : undefined;
    const lying = [...(before ? leaving(before, act, come) : []), ...(act ? arriving(act, come, troubled) : [])];
    const shake = this.plan.tremor * (troubled === 'shaky' ? 9 : 1);
    const wave = (hz: number, phase: number) => Math.sin((nowMs / 1000) * hz * 2 * Math.PI + this.phases[phase]!);
    const size = sheets.find((s) => s.id === (act ?? before)?.sheet);
    const was = sheets.find((s) => s.id === before?.sheet);
    // The phone goes nearer for a card and further off for a long form, while the sheet is coming.
    const far = (s: typeof size) => (s ? Math.max(...reachOf(s)) : 300) * usualCamera.focal;
    const distance = was ? far(was) + (far(size) - far(was)) * ease(come) : far(size) * (1 + 0.5 * (1 - ease(come)));
    const grey = troubled === 'dark' ? 0.1 : 1;
    return {
      desk: this.plan.desk,
      sheets: lying,
      camera: {
        ...usualCamera,
        at: [0.35 * shake * wave(0.9, 0) + 0.1 * shake * wave(8.3, 1), 0.35 * shake * wave(1.1, 2) + 0.1 * shake * wave(9.1, 3)],
        distance,
        tilt: 9 + 0.12 * shake * wave(0.7, 4),
        azimuth: 80,
        roll: 0.1 * shake * wave(0.8, 5) + 0.03 * shake * wave(7.7, 6),
      },
      light: {
        ...usualLight,
        ambient: usualLight.ambient * grey,
        lamp: { ...usualLight.lamp, power: usualLight.lamp.power * grey },
      },
      noise: troubled === 'dark' ? 7 : 3.5,
      seed: Math.floor(nowMs),
      blur: troubled === 'blurred' ? 0.008 : 0,
    };
  }
}

function laid(act: Act, xMm: number, yMm: number, squeeze = 1): ReelSheet {
  const sheet = sheets.find((s) => s.id === act.sheet)!;
  const spread = act.entrance === 'leaf';
  return {
    id: sheet.id,
    widthMm: sheet.widthMm * Math.max(0.02, squeeze),
    heightMm: sheet.heightMm,
    xMm,
    yMm,
    angle: (act.angle ?? 0) + (isLaidSideways(sheet.widthMm, sheet.heightMm) ? 90 : 0),
    bend: spread ? { kind: 'book', heightMm: 16, reachMm: 42 } : { kind: 'flat' },
    ...(spread && { spread }),
  };
}

function arriving(act: Act, come: number, trouble: Act['trouble']): ReelSheet[] {
  const partlyOut = trouble === 'partlyOut' ? 75 : 0;
  if (act.entrance === 'turned' || act.entrance === 'leaf')
    return come < 0.5 ? [] : [laid(act, partlyOut, 0, Math.sin((come - 0.5) * Math.PI))];
  const from = act.entrance === 'laid' ? 330 : -330;
  return [laid(act, partlyOut + from * (1 - ease(come)), 40 * (1 - ease(come)))];
}

function leaving(before: Act, act: Act | undefined, come: number): ReelSheet[] {
  if (act?.entrance === 'turned' || act?.entrance === 'leaf')
    return come < 0.5
      ? [laid({ ...before, entrance: act.entrance === 'leaf' ? 'leaf' : 'laid' }, 0, 0, Math.cos(come * Math.PI))]
      : [];
  // Under a sheet that is laid on it the old one is drawn away; a lifted one goes out at the top.
  return come < 1 ? [act?.entrance === 'lifted' ? laid(before, 0, -420 * ease(come)) : laid(before, -150 * ease(come), -420 * ease(come) ** 2)] : []; // prettier-ignore
}

/** How much of the picture's longer side a sheet wants, mm, by its height and by its width, with room around it. */
function reachOf({ widthMm, heightMm }: { widthMm: number; heightMm: number }): [number, number] {
  const [across, down] = isLaidSideways(widthMm, heightMm) ? [heightMm, widthMm] : [widthMm, heightMm];
  return [down / 0.8, across / 0.57];
}

/** A landscape sheet is laid so that it fills an upright picture; a book is not. */
const isLaidSideways = (widthMm: number, heightMm: number) => widthMm > heightMm * 1.2 && widthMm < 300;

const ease = (t: number) => t * t * (3 - 2 * t);
