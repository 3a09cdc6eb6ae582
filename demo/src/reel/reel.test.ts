import { afternoon, book, filmedPile, pile } from './acts';
import { defocus } from './defocus';
import { project } from './projector';
import { Reel } from './reel';

/** States in the order in which they come, each once. */
function states(reel: Reel, untilMs: number, onStep?: (now: number) => void): string[] {
  const seen: string[] = [];
  for (let now = 0; now < untilMs; now += 40) {
    const { act, state } = reel.moment(now);
    const name = `${act} ${state}`;
    if (seen.at(-1) !== name) seen.push(name);
    onStep?.(now);
  }
  return seen;
}

describe('the stand-in’s reel', () => {
  test('a patient hand waits for the shutter, and takes it as given only once the sheet lies there', () => {
    const reel = new Reel(pile);
    expect(states(reel, 6000)).toEqual(['0 coming', '0 troubled', '0 lying']);
    reel.taken(6000);
    const after: string[] = [];
    for (let now = 6000; now < 8200; now += 40) {
      const name = `${reel.moment(now).act} ${reel.moment(now).state}`;
      if (after.at(-1) !== name) after.push(name);
    }
    expect(after.slice(0, 3)).toEqual(['0 lying', '1 coming', '1 lying']);
  });

  test('it gives up after a while, and is over after the last sheet', () => {
    const reel = new Reel({ ...pile, acts: pile.acts.slice(0, 2) });
    expect(states(reel, 400_000).at(-1)).toBe('2 over');
  });

  test('a film does not wait: every sheet comes, lies and goes in its time', () => {
    const seen = states(new Reel(filmedPile), 90_000);
    expect(seen.filter((s) => s.endsWith('lying'))).toHaveLength(10);
    expect(seen.at(-1)).toBe('10 over');
  });

  test('a book goes round', () => {
    const reel = new Reel(book);
    states(reel, 20_000, (now) => reel.taken(now));
    expect(reel.moment(20_000).act).toBeGreaterThan(2);
  });

  test('the same script shows the same scenes; another one other sheets', () => {
    expect(new Reel(pile).scene(3000)).toEqual(new Reel(pile).scene(3000));
    const sheets = (seed: number) =>
      afternoon(8, seed)
        .acts.map((a) => a.sheet)
        .join();
    expect(sheets(4)).toBe(sheets(4));
    expect(new Set([1, 2, 3, 4, 5].map(sheets)).size).toBeGreaterThan(3);
  });

  test('an afternoon never shows a sheet twice', () => {
    for (let seed = 1; seed < 20; seed++) {
      const names = afternoon(50, seed).acts.map((a) => a.sheet);
      expect(new Set(names).size).toBe(names.length);
    }
  });

  test('what goes wrong at first is in the scene: blur, darkness, a side out of the picture', () => {
    const scene = (trouble: 'blurred' | 'dark' | 'partlyOut', now: number) =>
      new Reel({ ...pile, acts: [{ sheet: 'paint-chart', entrance: 'laid', lyingMs: 9000, trouble, troubleMs: 2000 }] }).scene(
        now,
      );
    expect(scene('blurred', 2000).blur).toBeGreaterThan(0);
    expect(scene('blurred', 4000).blur).toBe(0);
    expect(scene('dark', 2000).light.ambient).toBeLessThan(0.2 * scene('dark', 4000).light.ambient);
    expect(scene('partlyOut', 2000).sheets[0]!.xMm).toBeGreaterThan(50);
    expect(scene('partlyOut', 4000).sheets[0]!.xMm).toBe(0);
  });
});

test('a scene is rendered at any size, a sheet without its picture is white', () => {
  const reel = new Reel({ ...pile, acts: [{ sheet: 'paint-chart', entrance: 'laid', lyingMs: 9000 }] });
  const picture = project(reel.scene(3000), new Map(), 48, 64);
  expect([picture.width, picture.height, picture.channels]).toEqual([48, 64, 3]);
  const middle = (32 * 48 + 24) * 3;
  expect(Math.min(...picture.data.slice(middle, middle + 3))).toBeGreaterThan(150);
  expect(Math.max(...picture.data.slice(0, 3))).toBeLessThan(140);
});

test('out of focus a point becomes a disc, and no light is lost', () => {
  const picture = { width: 41, height: 41, channels: 1 as const, data: new Uint8ClampedArray(41 * 41) };
  for (let y = 15; y < 26; y++) picture.data.fill(200, y * 41 + 15, y * 41 + 26);
  const before = picture.data.reduce((s, v) => s + v, 0);
  defocus(picture, 4);
  expect(picture.data[20 * 41 + 20]).toBeLessThan(200);
  expect(picture.data[20 * 41 + 11]).toBeGreaterThan(10);
  expect(picture.data.reduce((s, v) => s + v, 0) / before).toBeCloseTo(1, 1);
});
