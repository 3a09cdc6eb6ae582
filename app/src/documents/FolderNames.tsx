import { patternIn, type Folder } from '@libretto/model';
import { foldersOf, setFolderPattern } from '../store/filing';
import { useApp, useAppDispatch } from '../store/store';
import { Action } from '../ui/Action';
import { PatternEditor } from '../ui/PatternEditor';
import { SwitchRow } from '../ui/SwitchRow';
import { Sheet } from '../ui/Sheet';
import { useSay } from '../ui/words/words';
import { usePattern } from './usePattern';

/** How names are built in a folder. */
export function FolderNames({ folder: { id, name, parent }, onClose }: { folder: Folder; onClose: () => void }) {
  const say = useSay();
  const dispatch = useAppDispatch();
  const folders = useApp(foldersOf);
  const own = folders[id]?.namePattern;
  const everywhere = usePattern();
  const pattern = patternIn(folders, id, everywhere);
  const keep = (next: typeof own) => void dispatch(setFolderPattern(id, next));
  return (
    <Sheet title={say('names.inTitle', { name })} onClose={onClose}>
      <SwitchRow
        label={say('names.inOwn')}
        about={say(own ? 'names.inHere' : 'names.inElsewhere')}
        on={own !== undefined}
        onPress={() => keep(own ? undefined : patternIn(folders, parent, everywhere))}
      />
      {own ? <PatternEditor pattern={pattern} onChange={keep} /> : null}
      <Action main onPress={onClose}>
        {say('common.done')}
      </Action>
    </Sheet>
  );
}
