import { View } from 'react-native';
import { Switch, Text } from 'react-native-paper';
import { changeSettings } from '../store/editing';
import { settingsId } from '../store/library';
import { useApp, useAppDispatch } from '../store/store';
import { PressRow } from '../ui/PressRow';
import { useTokens } from '../ui/theme';
import { useSay } from '../ui/words/words';

/** Whether single letters act as keys (WCAG 2.2, 2.1.4). */
export function LetterKeys() {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const settings = useApp((s) => s.library.settings[settingsId]!);
  const on = settings.letterKeys;
  return (
    <PressRow
      role="switch"
      checked={on}
      label={say('keys.letters')}
      onPress={() => void dispatch(changeSettings(settings, { letterKeys: !on }))}
    >
      <View style={{ flex: 1 }}>
        <Text variant="labelMedium">{say('keys.letters')}</Text>
        <Text variant="bodySmall" style={{ color: t.pencil }}>
          {say('keys.lettersAbout')}
        </Text>
      </View>
      <Switch value={on} />
    </PressRow>
  );
}
