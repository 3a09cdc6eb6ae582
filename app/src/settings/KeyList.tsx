import { View } from 'react-native';
import { Text } from 'react-native-paper';
import { sayList } from '../ui/words/words';

/** All keys, and what they do. */
export function KeyList() {
  return Object.entries(sayList('keys.list')).map(([id, [key, what]]) => (
    <View key={id} style={{ flexDirection: 'row', gap: 12 }}>
      <Text variant="labelMedium" style={{ width: 116 }}>
        {key}
      </Text>
      <Text style={{ flex: 1 }}>{what}</Text>
    </View>
  ));
}
