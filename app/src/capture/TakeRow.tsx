import { View } from 'react-native';
import { Text, TouchableRipple } from 'react-native-paper';
import { Action } from '../ui/Action';
import { Sign } from '../ui/Sign';
import { darkTokens as t } from '../ui/tokens';
import { useSay } from '../ui/words/words';

export interface TakeRowProps {
  pages: number;
  /** Number of the next page. */
  number: number;
  /** Number of the page that is taken anew, if one is. */
  retaking: number | null;
  ready: boolean;
  /** Leaving, once what was taken is saved. */
  leaving: boolean;
  bySelf: boolean;
  onTake: () => void;
  onDone: () => void;
  onBySelf: () => void;
}

/** Done, the shutter, and whether pages take themselves: within reach of a thumb. */
export function TakeRow({ pages, number, retaking, ready, leaving, bySelf, onTake, onDone, onBySelf }: TakeRowProps) {
  const say = useSay();
  const colour = bySelf ? t.moss : t.pencil;
  return (
    <View style={{ flexDirection: 'row', gap: 10, padding: 12, alignItems: 'center' }}>
      <Action tall onPress={onDone} loading={leaving} disabled={leaving} style={{ minWidth: 96 }}>
        {retaking ? say('common.cancel') : pages ? say('capture.done', { count: pages }) : say('capture.close_')}
      </Action>
      <Action tall main disabled={!ready} onPress={onTake} style={{ flex: 1 }}>
        {retaking ? say('capture.retake', { number: retaking }) : say('capture.take', { number })}
      </Action>
      <TouchableRipple
        role="switch"
        aria-checked={bySelf}
        aria-label={say('capture.bySelfLabel')}
        onPress={onBySelf}
        style={{ minWidth: 64, minHeight: 48, alignItems: 'center', justifyContent: 'center' }}
      >
        <View style={{ alignItems: 'center', gap: 2 }} aria-hidden>
          <Sign source={bySelf ? 'hand-back-right-off-outline' : 'hand-back-right-outline'} size={22} color={colour} />
          <Text variant="bodySmall" style={{ color: colour }}>
            {say(bySelf ? 'capture.bySelf' : 'capture.byHand')}
          </Text>
        </View>
      </TouchableRipple>
    </View>
  );
}
