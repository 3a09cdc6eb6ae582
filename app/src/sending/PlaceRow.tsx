import { View } from 'react-native';
import { Checkbox, Text } from 'react-native-paper';
import { PressRow } from '../ui/PressRow';
import { Sign } from '../ui/Sign';
import { useTokens } from '../ui/theme';
import { useSay } from '../ui/words/words';

export interface PlaceRowProps {
  icon: string;
  name: string;
  about: string;
  /** Why it cannot go there, in place of what it is. */
  problem?: string | undefined;
  on: boolean;
  onPress: () => void;
}

/** Somewhere to send to, to be ticked. */
export function PlaceRow({ icon, name, about, problem, on, onPress }: PlaceRowProps) {
  const t = useTokens();
  const say = useSay();
  return (
    <PressRow
      role="checkbox"
      checked={on}
      label={say('send.place', { name, about: problem ?? about })}
      onPress={onPress}
      style={{ gap: 14, minHeight: 52, borderBottomWidth: 1, borderColor: t.hairline }}
    >
      <Sign source={icon} size={24} color={on ? t.wine : t.pencil} />
      <View style={{ flex: 1 }}>
        <Text variant={on ? 'labelLarge' : 'bodyLarge'}>{name}</Text>
        <Text variant="bodySmall" style={{ color: problem ? t.rust : t.pencil }}>
          {problem ?? about}
        </Text>
      </View>
      <Checkbox status={on ? 'checked' : 'unchecked'} />
    </PressRow>
  );
}
