import { addIcons } from '../ui/icons';
import { moreIconPaths } from '../ui/moreIconPaths';
import { enMore } from '../ui/words/enMore';
import { addWords } from '../ui/words/words';

// All words and icons are there from the start.
addWords(enMore);
addIcons(moreIconPaths);
