import { View } from 'react-native';
import { Switch, Text } from 'react-native-paper';
import { patternIn, type Folder } from '@libretto/model';
import { foldersOf, setFolderPattern } from '../store/filing';
import { useApp, useAppDispatch } from '../store/store';
import { Action } from '../ui/Action';
import { PatternEditor } from '../ui/PatternEditor';
import { PressRow } from '../ui/PressRow';
import { Sheet } from '../ui/Sheet';
import { useTokens } from '../ui/theme';
import { useSay } from '../ui/words/words';
import { usePattern } from './usePattern';

/** How names are built in a folder. */
export function FolderNames({ folder: { id, name, parent }, onClose }: { folder: Folder; onClose: () => void }) {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const folders = useApp(foldersOf);
  const own = folders[id]?.namePattern;
  const everywhere = usePattern();
  const pattern = patternIn(folders, id, everywhere);
  const keep = (next: typeof own) => void dispatch(setFolderPattern(id, next));
  return (
    <Sheet title={say('names.inTitle', { name })} onClose={onClose}>
      <PressRow
        role="switch"
        checked={own !== undefined}
        label={say('names.inOwn')}
        onPress={() => keep(own ? undefined : patternIn(folders, parent, everywhere))}
      >
        <View style={{ flex: 1 }}>
          <Text>{say('names.inOwn')}</Text>
          <Text variant="bodySmall" style={{ color: t.pencil }}>
            {say(own ? 'names.inHere' : 'names.inElsewhere')}
          </Text>
        </View>
        <Switch value={own !== undefined} />
      </PressRow>
      {own ? <PatternEditor pattern={pattern} onChange={keep} /> : null}
      <Action main onPress={onClose}>
        {say('common.done')}
      </Action>
    </Sheet>
  );
}
