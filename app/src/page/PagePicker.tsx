import { useState } from 'react';
import { Image, Pressable, useWindowDimensions, View } from 'react-native';
import { Checkbox, Dialog, Text } from 'react-native-paper';
import type { Page, Recipe } from '@libretto/model';
import { Action } from '../ui/Action';
import { Over } from '../ui/Over';
import { Spinner } from '../ui/Spinner';
import { usePageImage } from '../work/usePageImage';
import { useTokens } from '../ui/theme';
import { VirtualList } from '../ui/VirtualList';
import { useSay } from '../ui/words/words';

export interface PagePickerProps {
  title: string;
  /** Those to choose from; all are chosen at first. */
  pages: readonly Page[];
  all: readonly Page[];
  recipeFor: (page: Page) => Recipe;
  onUse: (chosen: readonly Page[]) => void;
  onClose: () => void;
}

/** A row's height with the gap below it, px. */
const rowPx = 192;

/** Shows what a change would make of each of several pages, before it is theirs. */
export function PagePicker({ title, pages, all, recipeFor, onUse, onClose }: PagePickerProps) {
  const say = useSay();
  const columns = useWindowDimensions().width > 560 ? 4 : 2;
  const [left, setLeft] = useState<readonly string[]>([]);
  const chosen = pages.filter((p) => !left.includes(p.id));
  const toggle = (id: string) => setLeft((ids) => (ids.includes(id) ? ids.filter((i) => i !== id) : [...ids, id]));
  return (
    <Over label={title} maxWidth={560} onClose={onClose}>
      <Dialog.Title role="heading" aria-level={2}>
        {title}
      </Dialog.Title>
      <Dialog.ScrollArea style={{ maxHeight: 420 }}>
        <VirtualList
          style={{ maxHeight: 420, height: Math.ceil(pages.length / columns) * rowPx + 24 }}
          count={Math.ceil(pages.length / columns)}
          keyOf={(row) => pages[row * columns]!.id}
          sizeOf={() => rowPx}
          paddingStart={12}
          overscan={2}
          render={(row) => (
            <View style={{ flexDirection: 'row', gap: 12 }}>
              {pages.slice(row * columns, (row + 1) * columns).map((page) => (
                <Preview
                  key={page.id}
                  page={page}
                  recipe={recipeFor(page)}
                  folio={all.indexOf(page) + 1}
                  on={!left.includes(page.id)}
                  onToggle={() => toggle(page.id)}
                />
              ))}
            </View>
          )}
        />
      </Dialog.ScrollArea>
      <Dialog.Actions>
        <Action onPress={onClose}>{say('picker.leave')}</Action>
        <Action
          main
          disabled={!chosen.length}
          onPress={() => {
            onUse(chosen);
            onClose();
          }}
        >
          {say('picker.use', { count: chosen.length })}
        </Action>
      </Dialog.Actions>
    </Over>
  );
}

function Preview({
  page,
  recipe,
  folio,
  on,
  onToggle,
}: {
  page: Page;
  recipe: Recipe;
  folio: number;
  on: boolean;
  onToggle: () => void;
}) {
  const t = useTokens();
  const say = useSay();
  const { url } = usePageImage({ ...page, recipe }, 'draft');
  return (
    <Pressable
      role="checkbox"
      aria-checked={on}
      aria-label={say('picker.page', { folio })}
      onPress={onToggle}
      style={{ width: 110, alignItems: 'center', gap: 2 }}
    >
      <View
        style={{
          width: 104,
          height: 140,
          borderWidth: on ? 2 : 1,
          borderColor: on ? t.wine : t.hairline,
          justifyContent: 'center',
        }}
      >
        {url ? (
          <Image source={{ uri: url }} resizeMode="contain" style={{ width: '100%', height: '100%' }} accessibilityLabel="" />
        ) : (
          <Spinner />
        )}
      </View>
      <div aria-hidden inert style={{ display: 'flex', alignItems: 'center', pointerEvents: 'none' }}>
        <Checkbox status={on ? 'checked' : 'unchecked'} />
        <Text>{folio}</Text>
      </div>
    </Pressable>
  );
}
