import { useEffect } from 'react';
import { View } from 'react-native';
import { Button, Text } from 'react-native-paper';
import { changeSettings } from '../store/editing';
import { settingsId } from '../store/library';
import { useApp, useAppDispatch } from '../store/store';
import { useTokens } from '../ui/theme';
import { corner } from '../ui/tokens';
import { useSay } from '../ui/words/words';

export interface HintProps {
  id: string;
  words: string;
  /** Somebody does what it says: it goes for good. */
  done: boolean;
}

/** One sentence that shows a way, until it is gone or put away. */
export function Hint({ id, words, done }: HintProps) {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const settings = useApp((s) => s.library.settings[settingsId]!);
  const known = settings.hintsDone?.includes(id) ?? false;
  const put = () => void dispatch(changeSettings(settings, { hintsDone: [...(settings.hintsDone ?? []), id] }));
  useEffect(() => {
    if (done && !known) put();
    // It is done once.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [done, known]);
  if (known) return null;
  return (
    <View
      role="note"
      style={{
        flexDirection: 'row',
        alignItems: 'center',
        gap: 8,
        paddingLeft: 12,
        borderWidth: 1,
        borderStyle: 'dashed',
        borderColor: t.hairline,
        borderRadius: corner,
      }}
    >
      <Text variant="bodySmall" style={{ flex: 1, color: t.pencil, paddingVertical: 8 }}>
        {words}
      </Text>
      <Button mode="text" compact onPress={put}>
        {say('document.hintDone')}
      </Button>
    </View>
  );
}
