import { useState } from 'react';
import { Image, Pressable, ScrollView, View } from 'react-native';
import { ActivityIndicator, Checkbox, Dialog, Text } from 'react-native-paper';
import type { Page, Recipe } from '@libretto/model';
import { Action } from '../../components/Action';
import { Over } from '../../components/Over';
import { usePageImage } from '../../components/usePageImage';
import { useTokens } from '../../theme/theme';

export interface PagePickerProps {
  title: string;
  /** Those to choose from; all are chosen at first. */
  pages: readonly Page[];
  all: readonly Page[];
  recipeFor: (page: Page) => Recipe;
  onUse: (chosen: readonly Page[]) => void;
  onClose: () => void;
}

/** Shows what a change would make of each of several pages, before it is theirs. */
export function PagePicker({ title, pages, all, recipeFor, onUse, onClose }: PagePickerProps) {
  const [left, setLeft] = useState<readonly string[]>([]);
  const chosen = pages.filter((p) => !left.includes(p.id));
  const toggle = (id: string) => setLeft((ids) => (ids.includes(id) ? ids.filter((i) => i !== id) : [...ids, id]));
  return (
    <Over label={title} maxWidth={560} onClose={onClose}>
      <Dialog.Title>{title}</Dialog.Title>
      <Dialog.ScrollArea style={{ maxHeight: 420 }}>
        <ScrollView contentContainerStyle={{ flexDirection: 'row', flexWrap: 'wrap', gap: 12, paddingVertical: 12 }}>
          {pages.map((page) => (
            <Preview
              key={page.id}
              page={page}
              recipe={recipeFor(page)}
              folio={all.indexOf(page) + 1}
              on={!left.includes(page.id)}
              onToggle={() => toggle(page.id)}
            />
          ))}
        </ScrollView>
      </Dialog.ScrollArea>
      <Dialog.Actions>
        <Action onPress={onClose}>Leave them</Action>
        <Action
          main
          disabled={!chosen.length}
          onPress={() => {
            onUse(chosen);
            onClose();
          }}
        >
          {`Use for ${chosen.length}`}
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
  const { url } = usePageImage({ ...page, recipe }, 'draft');
  return (
    <Pressable
      role="checkbox"
      aria-checked={on}
      aria-label={`Page ${folio}`}
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
          <ActivityIndicator />
        )}
      </View>
      <View style={{ flexDirection: 'row', alignItems: 'center' }} aria-hidden pointerEvents="none">
        <Checkbox status={on ? 'checked' : 'unchecked'} />
        <Text>{folio}</Text>
      </View>
    </Pressable>
  );
}
