import { findPages } from '@libretto/core';
import { usualCamera, usualLight } from '@libretto/demo/photographs';
import { photograph } from '@libretto/demo/scene/photograph';
import type { Desk } from '@libretto/demo/scene/desk';

const desks: readonly Desk[] = ['oak', 'slate', 'felt', 'laminate', 'checked', 'wall'];
const [width, height] = [1500, 2000];
const shadow = { x: 30, y: 40, width: 130, height: 250, angle: 14, softMm: 30, depth: 0.7 };

/** Empty desks from our own renderer, in other light, from other places and under the hand's shadow: on how many a page is found that is none. */
export async function benchBlank(count: number): Promise<void> {
  let state = 7;
  const roll = (from: number, to: number) => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return from + ((to - from) * state) / 4294967296;
  };
  const wrong = new Map<Desk, number[]>(desks.map((desk) => [desk, []]));
  for (let i = 0; i < count; i++) {
    const desk = desks[i % desks.length]!;
    const dim = roll(0, 1) < 0.2 ? 0.3 : 1;
    const { photo } = photograph(
      {
        desk,
        sheets: [],
        camera: { ...usualCamera, at: [roll(-400, 400), roll(-400, 400)], distance: roll(180, 520), tilt: roll(0, 30), azimuth: roll(0, 360), roll: roll(-10, 10) }, // prettier-ignore
        light: {
          ...usualLight,
          ambient: usualLight.ambient * dim,
          lamp: { ...usualLight.lamp, x: roll(-400, 400), y: roll(-400, 400), power: usualLight.lamp.power * dim },
          colour: [1, roll(0.9, 1), roll(0.72, 1)],
          ...(roll(0, 1) < 0.5 && { shadow: { ...shadow, angle: roll(-40, 40), softMm: roll(8, 70) } }),
        },
        noise: dim < 1 ? 8 : 3,
        seed: i + 1,
      },
      width,
      height,
    );
    const [found] = findPages(photo);
    if (found) wrong.get(desk)!.push(found.confidence);
  }
  const all = [...wrong.values()].flat();
  console.log(`${count} empty desks: a page found on ${all.length} (${((100 * all.length) / count).toFixed(1)} %), on ${all.filter((c) => c >= 0.8).length} of them without asking`); // prettier-ignore
  for (const [desk, confidences] of wrong)
    if (confidences.length) console.log(`  ${desk}: ${confidences.map((c) => c.toFixed(2)).join(' ')}`);
}
