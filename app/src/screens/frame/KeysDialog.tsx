import { ScrollView, View } from 'react-native';
import { Dialog, Text } from 'react-native-paper';
import { Action } from '../../components/Action';
import { Over } from '../../components/Over';

const keys: [string, string][] = [
  ['J, K', 'next page, page before'],
  ['E, F', 'edges, finish'],
  ['R', 'turn'],
  ['S', 'send'],
  ['Enter', 'open the page'],
  ['Space', 'lift a page, arrows move it, Space puts it down'],
  ['Arrows', 'move a corner or side by one pixel of the photo, with Shift by ten'],
  ['Ctrl Z, Ctrl Y', 'undo, redo'],
  ['Delete', 'delete the page'],
  ['Space, Enter, Page and volume keys', 'camera: take the page'],
  ['A, G, L', 'camera: by itself, grid, light'],
  ['Esc', 'back'],
];

/** All keys, on "?". */
export function KeysDialog({ onClose }: { onClose: () => void }) {
  return (
    <Over label="Keys" maxWidth={480} onClose={onClose}>
      <Dialog.Title>Keys</Dialog.Title>
      <Dialog.ScrollArea>
        <ScrollView contentContainerStyle={{ gap: 6, paddingVertical: 12 }}>
          {keys.map(([key, what]) => (
            <View key={key} style={{ flexDirection: 'row', gap: 12 }}>
              <Text variant="labelMedium" style={{ width: 116 }}>
                {key}
              </Text>
              <Text style={{ flex: 1 }}>{what}</Text>
            </View>
          ))}
        </ScrollView>
      </Dialog.ScrollArea>
      <Dialog.Actions>
        <Action onPress={onClose}>Good</Action>
      </Dialog.Actions>
    </Over>
  );
}
