import { readdirSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { LiveEye, LiveFinder, Trigger, type Raster } from '@libretto/core';
import { afternoon, type Act } from '@libretto/demo/reel/acts';
import { project } from '@libretto/demo/reel/projector';
import { Reel } from '@libretto/demo/reel/reel';
import { filledIn } from './filledIn';
import { decode } from './photos';

const flat = fileURLToPath(new URL('../../demo/flat', import.meta.url));
const width = 480;
const height = 640;

/** Scripted sheets before the live finder and the trigger: what is taken, missed, doubled or blurred; outlines a second; steadiness. */
/** @param frameMs time between two frames that are looked at; 90 is what a phone manages while it also works on pages. */
export async function benchCapture(changes: number, firstScript: number, frameMs: number): Promise<void> {
  const pictures = new Map<string, Raster>();
  for (const file of readdirSync(flat)) pictures.set(path.parse(file).name, await decode(path.join(flat, file)));

  steadiness(pictures);
  for (const fields of [1, 2, 4, 8]) forms(pictures, fields, frameMs);

  const total = { changes: 0, missed: 0, doubled: 0, early: 0, blurred: 0, right: 0, frames: 0, lookMs: 0 };
  const waits: number[] = [];
  for (let seed = firstScript; total.changes < changes; seed++) {
    const plan = afternoon(Math.min(10, changes - total.changes), seed * 17);
    const reel = new Reel(plan);
    const taken = plan.acts.map(() => 0);
    const free: (number | null)[] = plan.acts.map(() => null);
    for (const { now, moment, sight, lookMs, takes } of watched(reel, () => pictures, frameMs)) {
      if (moment.state === 'lying') free[moment.act] ??= now;
      total.lookMs += lookMs;
      total.frames++;
      if (!takes) continue;
      const act = plan.acts[moment.act]!;
      if (process.env.CAPTURE_TRACE) console.log(seed, moment.act, act.sheet, moment.state, act.trouble ?? '', sight.slope);
      if (moment.state === 'troubled' && act.trouble === 'blurred') total.blurred++;
      else if (moment.state === 'coming') total.early++;
      taken[moment.act]++;
      if (taken[moment.act] === 1 && free[moment.act] !== null) waits.push(now - free[moment.act]!);
    }
    plan.acts.forEach((act, i) => {
      total.changes++;
      if (taken[i] === 0) {
        total.missed++;
        console.log(`  missed: ${plan.desk}, ${act.sheet}, ${act.entrance}${act.trouble ? `, first ${act.trouble}` : ''} (script ${seed}, ${i + 1})`);
      } else if (taken[i] === 1) total.right++;
      else {
        total.doubled += taken[i]! - 1;
        console.log(`  ${taken[i]} times: ${plan.desk}, ${act.sheet}, ${act.entrance}${act.trouble ? `, first ${act.trouble}` : ''} (script ${seed}, ${i + 1})`);
      }
    });
  } // prettier-ignore
  waits.sort((a, b) => a - b);
  console.log(
    `${total.changes} scripted sheets: ${total.right} taken once, ${total.missed} missed (${((100 * total.missed) / total.changes).toFixed(1)} %), ${total.doubled} taken again, ${total.blurred} while blurred, ${total.early} while moving; from lying free to the shutter, median ${waits[waits.length >> 1]} ms of the script; ${total.frames} frames, ${(total.lookMs / total.frames).toFixed(0)} ms a look`,
  );
  console.log(
    JSON.stringify({ sheets: total.changes, once: total.right, missed: total.missed, again: total.doubled, blurred: total.blurred, moving: total.early, shutterMs: waits[waits.length >> 1], everyMs: frameMs }),
  ); // prettier-ignore
}

/** A reel before the live eye and the trigger, frame by frame, with what it took. @param picturesAt the sheets' pictures during an act. */
function* watched(reel: Reel, picturesAt: (act: number) => ReadonlyMap<string, Raster>, frameMs: number) {
  const eye = new LiveEye();
  const trigger = new Trigger();
  for (let now = 0; ; now += frameMs) {
    const moment = reel.moment(now);
    if (moment.state === 'over') return;
    const frame = project(reel.scene(now), picturesAt(moment.act), width, height);
    const began = performance.now();
    const sight = eye.look(frame, detailOf(frame, eye.detailAt), 2800, now);
    const lookMs = performance.now() - began;
    const takes = trigger.step(sight.readiness, sight.signature, now).take;
    if (takes) trigger.taken(sight.signature);
    yield { now, moment, sight, lookMs, takes };
  }
}

/**
 * Copies of one form, filled in otherwise and laid on one another: each is a sheet of its own and is to be taken.
 *
 * @param fields that differ from the first copy.
 */
function forms(pictures: ReadonlyMap<string, Raster>, fields: number, frameMs: number): void {
  const copies = 6;
  let sheets = 0;
  let taken = 0;
  let again = 0;
  for (const [seed, sheet] of ['timber-docket', 'hull-survey-1', 'chandlery-receipt'].entries()) {
    const shown = Array.from({ length: copies }, (_, i) => new Map(pictures).set(sheet, i ? filledIn(pictures.get(sheet)!, fields, 10 * i + fields) : pictures.get(sheet)!)); // prettier-ignore
    const acts = shown.map((): Act => ({ sheet, entrance: 'laid', lyingMs: 2600 }));
    const reel = new Reel({ name: '', desk: 'oak', acts, patient: false, round: false, seed, tremor: 1 });
    const counts = acts.map(() => 0);
    for (const { moment, takes } of watched(reel, (act) => shown[act]!, frameMs)) if (takes) counts[moment.act]!++;
    sheets += copies;
    taken += counts.filter((n) => n > 0).length;
    again += counts.reduce((sum, n) => sum + Math.max(0, n - 1), 0);
  }
  console.log(`copies of three forms, ${fields} fields filled in otherwise: ${taken} of ${sheets} taken, ${again} taken again`);
}

/** The part about the page's middle, at the stream's own size. */
function detailOf(frame: Raster, at: readonly [number, number] | null): Raster | null {
  if (!at) return null;
  const size = 320;
  const x0 = Math.max(0, Math.min(width - size, Math.round(at[0] * width - size / 2)));
  const y0 = Math.max(0, Math.min(height - size, Math.round(at[1] * height - size / 2)));
  const data = new Uint8ClampedArray(size * size * 3);
  for (let y = 0; y < size; y++)
    data.set(frame.data.subarray(((y0 + y) * width + x0) * 3, ((y0 + y) * width + x0 + size) * 3), y * size * 3);
  return { width: size, height: size, channels: 3, data };
}

/** Outlines a second beside a bare copy of the frame, and how far corners stray on a scene that does not move. */
function steadiness(pictures: ReadonlyMap<string, Raster>): void {
  const strays: number[] = [];
  const finds: number[] = [];
  const copies: number[] = [];
  for (const [seed, sheet] of ['hull-survey-1', 'paint-chart', 'timber-docket', 'chandlery-receipt'].entries()) {
    const reel = new Reel({ name: '', desk: 'oak', acts: [{ sheet, entrance: 'laid', lyingMs: 60_000 }], patient: false, round: false, seed, tremor: 0 }); // prettier-ignore
    const finder = new LiveFinder();
    const eye = new LiveEye();
    const seen: number[][] = [];
    for (let i = 0; i < 45; i++) {
      const frame = project(reel.scene(2000 + i * 50), pictures, width, height);
      const a = performance.now();
      finder.next(frame);
      const b = performance.now();
      new Uint8ClampedArray(frame.data);
      const c = performance.now();
      const { shown } = eye.look(frame, null, 2800, i * 50);
      // The first second is warming up.
      if (i < 20) continue;
      finds.push(b - a);
      copies.push(c - b);
      if (shown) seen.push(shown.flatMap(([x, y]) => [x * width, y * height]));
    }
    for (let k = 0; k < 8; k++) {
      const mean = seen.reduce((s, q) => s + q[k]!, 0) / seen.length;
      strays.push(...seen.map((q) => (q[k]! - mean) ** 2));
    }
  }
  const mean = (v: number[]) => v.reduce((s, x) => s + x, 0) / v.length;
  console.log(
    `live outline at ${width}×${height}: ${(1000 / mean(finds)).toFixed(0)} a second in one worker, ${(mean(finds) / mean(copies)).toFixed(0)} × a bare copy of the frame; still scene: ${Math.sqrt(mean(strays)).toFixed(2)} px RMS`,
  );
}
