import { enMore } from '../ui/words/enMore';
import { addWords } from '../ui/words/words';

// All words are there from the start.
addWords(enMore);
