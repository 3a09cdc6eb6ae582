import { ScrollView, View } from 'react-native';
import { Dialog, Switch, Text } from 'react-native-paper';
import { changeSettings } from '../store/editing';
import { settingsId } from '../store/library';
import { useApp, useAppDispatch } from '../store/store';
import { Action } from '../ui/Action';
import { Over } from '../ui/Over';
import { PressRow } from '../ui/PressRow';
import { useTokens } from '../ui/theme';
import { en } from '../ui/words/en';
import { useSay } from '../ui/words/words';

/** All keys, on "?", and whether single ones act. */
export function KeysDialog({ onClose }: { onClose: () => void }) {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const settings = useApp((s) => s.library.settings[settingsId]!);
  const on = settings.letterKeys;
  return (
    <Over label={say('keys.title')} maxWidth={480} onClose={onClose}>
      <Dialog.Title role="heading" aria-level={2}>
        {say('keys.title')}
      </Dialog.Title>
      <Dialog.ScrollArea>
        <ScrollView contentContainerStyle={{ gap: 6, paddingVertical: 12 }}>
          {Object.entries(en.keys.list).map(([id, [key, what]]) => (
            <View key={id} style={{ flexDirection: 'row', gap: 12 }}>
              <Text variant="labelMedium" style={{ width: 116 }}>
                {key}
              </Text>
              <Text style={{ flex: 1 }}>{what}</Text>
            </View>
          ))}
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
        </ScrollView>
      </Dialog.ScrollArea>
      <Dialog.Actions>
        <Action onPress={onClose}>{say('common.done')}</Action>
      </Dialog.Actions>
    </Over>
  );
}
