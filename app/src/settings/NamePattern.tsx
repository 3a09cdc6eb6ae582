import { View } from 'react-native';
import { Text } from 'react-native-paper';
import { firstNamePattern } from '@libretto/model';
import { changeSettings } from '../store/editing';
import { settingsId } from '../store/library';
import { useApp, useAppDispatch } from '../store/store';
import { PatternEditor } from '../ui/PatternEditor';
import { SwitchRow } from '../ui/SwitchRow';
import { useTokens } from '../ui/theme';
import { useSay } from '../ui/words/words';

/** How names are built, wherever a folder does not say otherwise. */
export function NamePattern() {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const settings = useApp((s) => s.library.settings[settingsId]!);
  const unasked = settings.namesUnasked !== false;
  return (
    <View style={{ gap: 10 }}>
      <Text style={{ color: t.pencil }}>{say('names.about')}</Text>
      <PatternEditor
        pattern={settings.namePattern ?? firstNamePattern}
        onChange={(namePattern) => void dispatch(changeSettings(settings, { namePattern }))}
      />
      <SwitchRow
        label={say('names.give')}
        about={say('names.giveAbout')}
        on={unasked}
        onPress={() => void dispatch(changeSettings(settings, { namesUnasked: !unasked }))}
      />
    </View>
  );
}
