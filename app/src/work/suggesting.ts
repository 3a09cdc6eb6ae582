import type { KnownSender } from '@libretto/model';
import { suggestionsOf, type Suggestion } from '@libretto/text/suggest';
import type { ReadText } from '../store/files';

/** Places on a page are ten-thousandths of it. */
const whole = 10_000;

/** What was read on a page that belongs into its document's name. */
export const suggestionsIn = (text: ReadText | null | undefined, senders: readonly KnownSender[] = []): Suggestion[] =>
  suggestionsOf(
    (text?.lines ?? []).map((line) => ({
      words: line.map(([word, x, y, width, height, confidence]) => ({ text: word, box: { x, y, width, height }, confidence })),
    })),
    whole,
    senders,
    (text?.frames ?? []).map(([x, y, width, height]) => ({ x, y, width, height })),
  );
