import { View } from 'react-native';
import { Icon, Text, TouchableRipple } from 'react-native-paper';
import { Action } from '../../components/Action';
import { darkTokens as t } from '../../theme/tokens';

export interface TakeRowProps {
  pages: number;
  /** Number of the next page. */
  number: number;
  /** Number of the page that is taken anew, if one is. */
  retaking: number | null;
  ready: boolean;
  bySelf: boolean;
  onTake: () => void;
  onDone: () => void;
  onBySelf: () => void;
}

/** Done, the shutter, and whether pages take themselves: within reach of a thumb. */
export function TakeRow({ pages, number, retaking, ready, bySelf, onTake, onDone, onBySelf }: TakeRowProps) {
  const colour = bySelf ? t.moss : t.pencil;
  return (
    <View style={{ flexDirection: 'row', gap: 10, padding: 12, alignItems: 'center' }}>
      <Action tall onPress={onDone} style={{ minWidth: 96 }}>
        {retaking ? 'Leave it' : pages ? `Done · ${pages}` : 'Close'}
      </Action>
      <Action tall main disabled={!ready} onPress={onTake} style={{ flex: 1 }}>
        {retaking ? `Take page ${retaking} again` : `Take page ${number}`}
      </Action>
      <TouchableRipple
        role="switch"
        aria-checked={bySelf}
        aria-label="Pages take themselves"
        onPress={onBySelf}
        style={{ minWidth: 64, minHeight: 48, alignItems: 'center', justifyContent: 'center' }}
      >
        <View style={{ alignItems: 'center', gap: 2 }} aria-hidden>
          <Icon source={bySelf ? 'hand-back-right-off-outline' : 'hand-back-right-outline'} size={22} color={colour} />
          <Text variant="bodySmall" style={{ color: colour }}>
            {bySelf ? 'by itself' : 'by hand'}
          </Text>
        </View>
      </TouchableRipple>
    </View>
  );
}
