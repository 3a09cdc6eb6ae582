import { ScrollView, View } from 'react-native';
import { Text, TouchableRipple } from 'react-native-paper';
import {
  pathTo,
  sendingFolder,
  shelfGroups,
  shelfOrders,
  type ShelfGroup,
  type ShelfOrder,
  type ShelfRecord,
} from '@libretto/model';
import { useApp } from '../store/store';
import { IconAction } from '../ui/IconAction';
import { MoreMenu } from '../ui/MoreMenu';
import { Sign } from '../ui/Sign';
import { useTokens } from '../ui/theme';
import { ToggleWord } from '../ui/ToggleWord';
import { useSay } from '../ui/words/words';
import { documentsOnShelf, shelfFilters, tagsOnShelf, type ShelfFilter } from './shelfRows';
import { useGoesTo } from './useGoesTo';

export interface ViewRowProps {
  order: ShelfOrder;
  group: ShelfGroup;
  filter: ShelfFilter | null;
  tag: string | null;
  onOrder: (order: ShelfOrder) => void;
  onGroup: (group: ShelfGroup) => void;
  onFilter: (filter: ShelfFilter | null) => void;
  onTag: (tag: string | null) => void;
  covers: boolean;
  onCovers: (covers: boolean) => void;
  /** A new folder is wanted. */
  onFolder: () => void;
}

const mostTags = 12;

/** Which documents are shown, in which order. */
export function ViewRow({
  order,
  group,
  filter,
  tag,
  onOrder,
  onGroup,
  onFilter,
  onTag,
  covers,
  onCovers,
  onFolder,
}: ViewRowProps) {
  const say = useSay();
  const all = useApp(documentsOnShelf);
  const tags = useApp(tagsOnShelf).slice(0, mostTags);
  if (!all.length) return null;
  return (
    <View style={{ flexDirection: 'row', alignItems: 'center', marginRight: -12 }}>
      <ScrollView horizontal showsHorizontalScrollIndicator={false} style={{ flex: 1 }} contentContainerStyle={{ gap: 6 }}>
        {shelfFilters.map((id) => (
          <ToggleWord
            key={id}
            on={filter === id}
            words={say(`shelf.filter.${id}`)}
            onPress={() => onFilter(filter === id ? null : id)}
          />
        ))}
        {tags.map((each) => (
          <ToggleWord
            key={each}
            on={tag === each}
            words={say('shelf.tag', { tag: each })}
            onPress={() => onTag(tag === each ? null : each)}
          />
        ))}
      </ScrollView>
      <MoreMenu
        label={say('shelf.order.label')}
        entries={[
          ...shelfOrders.map((id) => ({
            title: say(`shelf.order.${id}`),
            ...(id === order && { icon: 'check' }),
            onPress: () => onOrder(id),
          })),
          ...shelfGroups.map((id) => ({
            title: say(`shelf.group.${id}`),
            ...(id === group && { icon: 'check' }),
            onPress: () => onGroup(id),
          })),
          { title: say('shelf.covers'), ...(covers && { icon: 'check' }), onPress: () => onCovers(!covers) },
        ]}
      >
        {(open) => <IconAction icon="sort" label={say('shelf.order.label')} aria-haspopup="menu" onPress={open} />}
      </MoreMenu>
      <IconAction icon="folder-plus-outline" label={say('folder.new')} onPress={onFolder} />
    </View>
  );
}

export interface WayProps {
  folders: ShelfRecord['folders'];
  folder: string | null;
  onFolder: (id: string | null) => void;
  /** Where the open folder sends by itself is to be said. */
  onSends?: (id: string) => void;
}

/** The way from the shelf to the folder that is open; each stage leads back to it. */
export function Way({ folders, folder, onFolder, onSends }: WayProps) {
  const t = useTokens();
  const say = useSay();
  const path = pathTo(folders, folder);
  const own = path.at(-1);
  const to = useGoesTo(own && sendingFolder(folders, own.id));
  if (!path.length) return null;
  return (
    <View
      role="navigation"
      aria-label={say('folder.way')}
      style={{ flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', borderBottomWidth: 1, borderColor: t.hairline }}
    >
      {[{ id: null, name: say('shelf.title') }, ...path].map(({ id, name }, i) => {
        const last = i === path.length;
        return (
          <View key={id ?? 'shelf'} style={{ flexDirection: 'row', alignItems: 'center', minWidth: 0 }}>
            {i ? (
              <Text aria-hidden style={{ color: t.pencil, paddingLeft: i > 1 ? 0 : 8 }}>
                {say('folder.in')}
              </Text>
            ) : null}
            {last ? (
              <Text aria-current="page" variant="titleMedium" style={{ paddingHorizontal: 8, paddingVertical: 10 }}>
                {name}
              </Text>
            ) : (
              <TouchableRipple
                role="link"
                onPress={() => onFolder(id)}
                style={{ minHeight: 44, justifyContent: 'center', paddingHorizontal: i ? 8 : 0 }}
              >
                <Text style={{ color: t.wine }}>{name}</Text>
              </TouchableRipple>
            )}
          </View>
        );
      })}
      {own && onSends ? (
        <TouchableRipple
          role="button"
          onPress={() => onSends(own.id)}
          style={{ minHeight: 44, justifyContent: 'center', paddingHorizontal: 8, marginLeft: 'auto' }}
        >
          <View style={{ flexDirection: 'row', alignItems: 'center', gap: 6 }}>
            <Sign source="send" size={18} color={to ? t.wine : t.pencil} />
            <Text variant="bodySmall" style={{ color: to ? t.wine : t.pencil }}>
              {to ? say('folder.goesTo', { to }) : say('folder.sends')}
            </Text>
          </View>
        </TouchableRipple>
      ) : null}
    </View>
  );
}
