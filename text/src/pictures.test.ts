import { blocksOf } from './blocks';
import { picturesAmong } from './pictures';
import type { Word } from './words';

const word = (text: string, x: number, y: number, confidence = 0.95): Word => ({ text, confidence, box: { x, y, width: 2 * text.length, height: 3 } }); // prettier-ignore
const photo = { x: 20, y: 40, width: 80, height: 50 };
const band = { x: 0, y: 0, width: 210, height: 16 };
const lines = [
  { words: [word('Harbour', 30, 5), word('Review', 50, 5), word('November', 70, 5), word('twenty-six', 95, 5), word('Volume', 120, 5), word('eleven', 140, 5)] },
  { words: [word('Before', 20, 30)] },
  { words: [word('lI|', 40, 60, 0.2), word('~', 60, 70, 0.3), word('Kestrel', 30, 80)] },
  { words: [word('After', 20, 100)] },
]; // prettier-ignore

test('a coloured field that is written on is no picture; one with a name in it is', () => {
  expect(picturesAmong([photo, band], lines)).toEqual([photo]);
});

test('a picture stands between what is above and below it; what was taken for words in it is none', () => {
  const picture = { jpeg: new Uint8Array(), width: 800, height: 500, widthMm: 80, heightMm: 50 };
  const { blocks } = blocksOf({ lines, rules: [] }, [{ box: photo, picture }]);
  expect(blocks.slice(1)).toEqual([
    { kind: 'paragraph', text: 'Before' },
    { kind: 'picture', picture },
    { kind: 'paragraph', text: 'Kestrel' },
    { kind: 'paragraph', text: 'After' },
  ]);
});
