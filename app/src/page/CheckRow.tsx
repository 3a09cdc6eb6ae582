import { View } from 'react-native';
import { Text } from 'react-native-paper';
import type { Check } from '@libretto/model';
import { Action } from '../ui/Action';
import { Sign } from '../ui/Sign';
import { useTokens } from '../ui/theme';
import { actionInWords, checkInWords } from '../ui/words/format';
import { useSay } from '../ui/words/words';

export interface CheckRowProps {
  check: Check;
  /** Number of the page that it names, if that is still there. */
  other: number | null;
  /** How many more doubts there are. */
  more: number;
  onRemedy: () => void;
  onSettle: () => void;
}

/** The worst doubt about a page in words, the one action that settles it, and letting it be. */
export function CheckRow({ check, other, more, onRemedy, onSettle }: CheckRowProps) {
  const t = useTokens();
  const say = useSay();
  const words = checkInWords(say, check, other);
  const colour = check.severity === 'retake' ? t.rust : check.severity === 'look' ? t.brass : t.pencil;
  return (
    <View
      role="status"
      testID="check"
      style={{
        flexDirection: 'row',
        flexWrap: 'wrap',
        alignItems: 'center',
        gap: 8,
        paddingHorizontal: 14,
        paddingVertical: 6,
        backgroundColor: t.leaf,
        borderBottomWidth: 1,
        borderColor: t.hairline,
      }}
    >
      <Sign source="alert-circle-outline" size={20} color={colour} />
      <Text variant="labelMedium" style={{ color: colour, flexGrow: 1, flexShrink: 1 }}>
        {more ? say('check.more', { words, count: more }) : words}
      </Text>
      <View style={{ flexDirection: 'row', gap: 8 }}>
        <Action compact onPress={onRemedy}>
          {actionInWords(say, check, other)}
        </Action>
        <Action compact onPress={onSettle}>
          {say('check.fine')}
        </Action>
      </View>
    </View>
  );
}
