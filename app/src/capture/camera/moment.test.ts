import type { RunningCamera } from './camera';
import { betterStill, type Judgement } from './moment';

afterEach(() => jest.restoreAllMocks());

const textOf = (blob: Blob) =>
  new Promise<string>((resolve) => {
    const reader = new FileReader();
    reader.onload = () => resolve(reader.result as string);
    reader.readAsText(blob);
  });
const run = async (list: (Judgement | 'unreadable')[], eachMs = 0) => {
  let taken = 0;
  let now = 5000;
  jest.spyOn(performance, 'now').mockImplementation(() => now);
  const still = async () => {
    now += eachMs;
    return new Blob([String(taken++)]);
  };
  const camera = { still } as unknown as RunningCamera;
  const first = await camera.still();
  const better = await betterStill(
    camera,
    async (still) => {
      const verdict = list[Number(await textOf(still))]!;
      if (verdict === 'unreadable') throw new Error('no picture');
      return verdict;
    },
    first,
    5000,
  );
  return { kept: better ? Number(await textOf(better)) : 0, taken };
};

test('a sharp picture is kept at once', async () =>
  expect(await run([{ same: true, sharp: 1.2 }])).toEqual({ kept: 0, taken: 1 }));

test('of blurred ones the sharpest, and no more than three are taken', async () =>
  expect(await run([{ same: true, sharp: 0.4 }, { same: true, sharp: 0.8 }, { same: true, sharp: 0.6 }])).toEqual({ kept: 1, taken: 3 })); // prettier-ignore

test('it ends as soon as one is sharp, or shows another page', async () => {
  expect(await run([{ same: true, sharp: 0.5 }, { same: true, sharp: 1 }])).toEqual({ kept: 1, taken: 2 }); // prettier-ignore
  expect(await run([{ same: true, sharp: 0.5 }, { same: false, sharp: 3 }])).toEqual({ kept: 0, taken: 2 }); // prettier-ignore
});

test('a slow camera takes no picture of what comes after', async () => {
  const blurred = { same: true, sharp: 0.5 };
  expect(await run([blurred, { same: true, sharp: 2 }], 1300)).toEqual({ kept: 0, taken: 1 });
  expect(await run([blurred, { same: true, sharp: 0.6 }, { same: true, sharp: 2 }], 700)).toEqual({ kept: 1, taken: 2 });
});

test('a page without print, or one that cannot be judged, is kept as it is', async () => {
  expect(await run([{ same: true, sharp: null }])).toEqual({ kept: 0, taken: 1 });
  expect(await run(['unreadable'])).toEqual({ kept: 0, taken: 1 });
});
