import { View } from 'react-native';
import { Icon, Text } from 'react-native-paper';
import { betterOf, remedyOf, type Check } from '@libretto/model';
import { Action } from '../../components/Action';
import { useTokens } from '../../theme/theme';

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
      <Icon source="alert-circle-outline" size={20} color={colour} />
      <Text variant="labelMedium" style={{ color: colour, flexGrow: 1, flexShrink: 1 }}>
        {check.id === 'same-page' && other ? sameWords(check, other) : check.words}
        {more ? ` · ${more} more` : ''}
      </Text>
      <View style={{ flexDirection: 'row', gap: 8 }}>
        <Action compact onPress={onRemedy}>
          {check.id === 'same-page' && other && betterOf(check) === 'this' ? `Take page ${other} out` : remedyOf(check).action}
        </Action>
        <Action compact onPress={onSettle}>
          It is fine
        </Action>
      </View>
    </View>
  );
}

function sameWords(check: Check, other: number): string {
  const better = betterOf(check);
  const which = better === 'this' ? ', this one is sharper' : better === 'other' ? `, page ${other} is sharper` : '';
  return `Same as page ${other}${which}`;
}
