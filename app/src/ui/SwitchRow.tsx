import { View } from 'react-native';
import { Switch, Text } from 'react-native-paper';
import { PressRow } from './PressRow';
import { useTokens } from './theme';

export interface SwitchRowProps {
  label: string;
  /** What it does, or what comes of it as it is. */
  about?: string | null;
  on: boolean;
  onPress: () => void;
}

/** Something that is on or off. */
export function SwitchRow({ label, about, on, onPress }: SwitchRowProps) {
  const t = useTokens();
  return (
    <PressRow role="switch" checked={on} label={label} onPress={onPress}>
      <View style={{ flex: 1 }}>
        <Text>{label}</Text>
        {about ? (
          <Text variant="bodySmall" style={{ color: t.pencil }}>
            {about}
          </Text>
        ) : null}
      </View>
      <Switch value={on} />
    </PressRow>
  );
}
