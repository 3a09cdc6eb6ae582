import { useState } from 'react';
import { Image, Pressable, ScrollView, View } from 'react-native';
import { ActivityIndicator, Checkbox, Dialog, Portal, Text } from 'react-native-paper';
import type { Outline, Page, Photo } from '@libretto/model';
import { Action } from '../../components/Action';
import { usePageImage } from '../../components/usePageImage';
import { setOutlines } from '../../state/editing';
import { store, useAppDispatch } from '../../state/store';
import { useTokens } from '../../theme/theme';

/** How far corners of pages that were shot from one position lie apart at most, share of the photo's longer side. */
const alikeShare = 0.12;

/** The other pages of a document whose photo is as large and whose page lay at about the same place: the camera stood still. */
export function shotAlike(page: Page, photo: Photo, pages: readonly Page[]): Page[] {
  const { photo: photos } = store.getState().library;
  const found = page.found?.source === 'found' ? page.found : page.recipe!.outline;
  return pages.filter((other) => {
    const its = photos[other.photoId];
    if (other.id === page.id || other.photoId === page.photoId || !other.recipe || !its) return false;
    if (its.width !== photo.width || its.height !== photo.height || !photo.width || !photo.height) return false;
    const near = alikeShare * Math.max(photo.width, photo.height);
    const from = other.recipe.outline;
    return (
      from.source === 'whole' || from.quad.every((p, i) => Math.hypot(p[0] - found.quad[i]![0], p[1] - found.quad[i]![1]) < near)
    );
  });
}

/** Shows what the outline would make of each of the pages, before it is theirs. */
export function SameEdges({
  pages,
  outline,
  all,
  onClose,
}: {
  pages: readonly Page[];
  outline: Outline;
  all: readonly Page[];
  onClose: () => void;
}) {
  const dispatch = useAppDispatch();
  const [left, setLeft] = useState<readonly string[]>([]);
  const chosen = pages.filter((p) => !left.includes(p.id));
  const toggle = (id: string) => setLeft((ids) => (ids.includes(id) ? ids.filter((i) => i !== id) : [...ids, id]));
  return (
    <Portal>
      <Dialog visible onDismiss={onClose} style={{ maxWidth: 560, width: '92%', alignSelf: 'center' }}>
        <Dialog.Title>Same edges for these pages?</Dialog.Title>
        <Dialog.ScrollArea style={{ maxHeight: 420 }}>
          <ScrollView contentContainerStyle={{ flexDirection: 'row', flexWrap: 'wrap', gap: 12, paddingVertical: 12 }}>
            {pages.map((page) => (
              <Preview
                key={page.id}
                page={page}
                outline={outline}
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
              dispatch(setOutlines(chosen, outline));
              onClose();
            }}
          >
            {`Use for ${chosen.length}`}
          </Action>
        </Dialog.Actions>
      </Dialog>
    </Portal>
  );
}

function Preview({
  page,
  outline,
  folio,
  on,
  onToggle,
}: {
  page: Page;
  outline: Outline;
  folio: number;
  on: boolean;
  onToggle: () => void;
}) {
  const t = useTokens();
  const { url } = usePageImage({ ...page, recipe: { ...page.recipe!, outline } }, 'draft');
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
