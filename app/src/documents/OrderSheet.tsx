import { Image, useWindowDimensions, View } from 'react-native';
import { Dialog, Text } from 'react-native-paper';
import { lookOf, type Page } from '@libretto/model';
import { Action } from '../ui/Action';
import { Over } from '../ui/Over';
import { useTokens } from '../ui/theme';
import { VirtualList } from '../ui/VirtualList';
import { useSay } from '../ui/words/words';
import { useThumb } from '../work/usePageImage';

export interface OrderSheetProps {
  title: string;
  /** Ids in the order to be. */
  order: readonly string[];
  /** All pages as they stand now. */
  pages: readonly Page[];
  onUse: () => void;
  onClose: () => void;
}

const rowPx = 150;

/** Shows pages in another order before they stand in it. */
export function OrderSheet({ title, order, pages, onUse, onClose }: OrderSheetProps) {
  const say = useSay();
  const columns = useWindowDimensions().width > 560 ? 5 : 3;
  const rows = Math.ceil(order.length / columns);
  const from = pages.findIndex((p) => order.includes(p.id));
  return (
    <Over label={title} maxWidth={600} onClose={onClose}>
      <Dialog.Title role="heading" aria-level={2}>
        {title}
      </Dialog.Title>
      <Dialog.ScrollArea style={{ maxHeight: 440 }}>
        <VirtualList
          style={{ maxHeight: 440, height: rows * rowPx + 16 }}
          count={rows}
          keyOf={(row) => order[row * columns]!}
          sizeOf={() => rowPx}
          overscan={2}
          render={(row) => (
            <View style={{ flexDirection: 'row', gap: 10 }}>
              {order.slice(row * columns, (row + 1) * columns).map((id, i) => {
                const page = pages.find((p) => p.id === id);
                return page ? (
                  <Stands key={id} page={page} was={pages.indexOf(page) + 1} becomes={from + row * columns + i + 1} />
                ) : null;
              })}
            </View>
          )}
        />
      </Dialog.ScrollArea>
      <Dialog.Actions>
        <Action onPress={onClose}>{say('common.cancel')}</Action>
        <Action main onPress={onUse}>
          {say('select.useOrder')}
        </Action>
      </Dialog.Actions>
    </Over>
  );
}

function Stands({ page, was, becomes }: { page: Page; was: number; becomes: number }) {
  const t = useTokens();
  const say = useSay();
  const thumb = useThumb({ pageId: page.id, look: lookOf(page) }, page);
  return (
    <View style={{ width: 92, alignItems: 'center', gap: 4, paddingTop: 8 }}>
      <View style={{ width: 88, height: 108, borderWidth: 1, borderColor: t.hairline, backgroundColor: t.paper }}>
        {thumb?.url ? (
          <Image
            source={{ uri: thumb.url }}
            resizeMode="contain"
            style={{ width: '100%', height: '100%' }}
            accessibilityLabel=""
          />
        ) : null}
      </View>
      <Text variant="bodySmall">{say('select.stands', { becomes, was })}</Text>
    </View>
  );
}
