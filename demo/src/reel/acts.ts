import { sheets } from '../sheets/sheets';
import { random } from '../scene/noise';
import type { Desk } from '../scene/desk';

/** How a sheet comes before the camera. */
export type Entrance = 'laid' | 'lifted' | 'turned' | 'leaf';

/** What is wrong at first, and is put right after a while. */
export type Trouble = 'blurred' | 'partlyOut' | 'dark' | 'shaky';

/** One sheet's time before the camera. */
export interface Act {
  sheet: string;
  entrance: Entrance;
  trouble?: Trouble;
  /** How long the trouble lasts, ms. */
  troubleMs?: number;
  /** How long it lies after it was taken (or, for an impatient hand, at all), ms. */
  lyingMs: number;
  angle?: number;
}

export interface ReelPlan {
  name: string;
  desk: Desk;
  acts: readonly Act[];
  /** Waits for the shutter before it goes on, as one does who stands over the paper. */
  patient: boolean;
  /** Begins anew after the last act. */
  round: boolean;
  seed: number;
  /** Strength of the hand's tremor, 1 usual. */
  tremor: number;
}

const act = (sheet: string, entrance: Entrance, more: Partial<Act> = {}): Act => ({ sheet, entrance, lyingMs: 700, ...more });

/** Ten sheets, one after the other, with what goes wrong on a usual day. */
export const pile: ReelPlan = {
  name: 'A pile of papers',
  desk: 'oak',
  patient: true,
  round: false,
  seed: 5,
  tremor: 1,
  acts: [
    act('hull-survey-1', 'laid', { trouble: 'blurred', troubleMs: 1600 }),
    act('hull-survey-2', 'laid', { angle: -3 }),
    act('hull-survey-3', 'lifted', { trouble: 'partlyOut', troubleMs: 1800, angle: 2 }),
    act('timber-docket', 'laid', { angle: 4 }),
    act('mooring-agreement-1', 'laid', { lyingMs: 5000 }),
    act('mooring-agreement-2', 'turned'),
    act('chandlery-receipt', 'lifted', { angle: 3 }),
    act('mast-step-note', 'laid', { trouble: 'dark', troubleMs: 1500, angle: -5 }),
    act('paint-chart', 'lifted'),
    act('brasswell', 'lifted', { trouble: 'shaky', troubleMs: 1500, angle: -3 }),
  ],
};

/** The pile before a camera that cannot hear the shutter: every sheet lies for a while and goes. */
export const filmedPile: ReelPlan = {
  ...pile,
  patient: false,
  acts: pile.acts.map((a) => ({ ...a, lyingMs: Math.max(a.lyingMs, 3200) })),
};

/** An open book whose leaves are turned, over and over. */
export const book: ReelPlan = {
  name: 'A book',
  desk: 'felt',
  patient: true,
  round: true,
  seed: 9,
  tremor: 1,
  acts: [act('engine-handbook', 'leaf', { lyingMs: 900 }), act('engine-handbook-next', 'leaf', { lyingMs: 900 })],
};

/** A made-up afternoon: `count` (at most 13) changes with other paper, light and hands, none of which waits for the shutter. */
export function afternoon(count: number, seed: number): ReelPlan {
  const next = random(seed);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)]!;
  const single = sheets.filter((s) => !s.id.startsWith('engine-') && s.id !== 'job-board').map((s) => s.id);
  const acts: Act[] = [];
  while (acts.length < Math.min(count, single.length)) {
    const sheet = pick(single);
    // A sheet that was taken is not taken again, so each has one turn.
    if (acts.some((a) => a.sheet === sheet)) continue;
    const trouble = next() < 0.3 ? pick<Trouble>(['blurred', 'partlyOut', 'dark', 'shaky']) : undefined;
    acts.push({
      sheet,
      entrance: pick<Entrance>(['laid', 'laid', 'lifted', 'turned']),
      lyingMs: 1500 + next() * 1800,
      angle: (next() - 0.5) * 14,
      ...(trouble && { trouble, troubleMs: 700 + next() * 1200 }),
    });
  }
  return {
    name: 'An afternoon',
    desk: pick<Desk>(['oak', 'slate', 'felt', 'checked', 'laminate']),
    acts,
    patient: false,
    round: false,
    seed,
    tremor: 0.6 + next(),
  };
}
