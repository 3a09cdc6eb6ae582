import { useState } from 'react';
import { Pressable, View } from 'react-native';
import { Text } from 'react-native-paper';
import type { Folder } from '@libretto/model';
import { fileDocuments } from '../store/filing';
import { useAppDispatch, useAppStore } from '../store/store';
import { MoreMenu } from '../ui/MoreMenu';
import { Sign } from '../ui/Sign';
import { useTokens } from '../ui/theme';
import { useSay } from '../ui/words/words';
import { documentsOnShelf } from './shelfRows';
import { useGoesTo } from './useGoesTo';

export interface FolderRowProps {
  folder: Folder;
  documents: number;
  onOpen: () => void;
  onAsk: (what: 'renameFolder' | 'moveFolder' | 'removeFolder' | 'folderNames') => void;
  onSends?: () => void;
}

/** The kind of what is dragged from a document's row. */
export const draggedDocuments = 'application/x-libretto-documents';

/** A folder on the shelf; documents can be dropped on it. */
export function FolderRow({ folder, documents, onOpen, onAsk, onSends }: FolderRowProps) {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const store = useAppStore();
  const to = useGoesTo(folder);
  const [over, setOver] = useState(false);
  const ours = (event: React.DragEvent) => event.dataTransfer.types.includes(draggedDocuments);
  return (
    <div
      onDragOver={(event) => {
        if (!ours(event)) return;
        event.preventDefault();
        event.stopPropagation();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        if (!ours(event)) return;
        event.preventDefault();
        event.stopPropagation();
        setOver(false);
        const ids = event.dataTransfer.getData(draggedDocuments).split(' ');
        void dispatch(
          fileDocuments(
            documentsOnShelf(store.getState()).filter((d) => ids.includes(d.id)),
            folder,
          ),
        );
      }}
      style={{
        display: 'flex',
        flexDirection: 'row',
        borderBottom: `1px solid ${t.hairline}`,
        background: over ? t.well : undefined,
        minHeight: 60,
      }}
    >
      <Pressable
        role="link"
        testID="folder-row"
        onPress={onOpen}
        style={{ flex: 1, flexDirection: 'row', alignItems: 'center', gap: 14, paddingLeft: 16, minWidth: 0 }}
      >
        <View style={{ width: 70, alignItems: 'center' }}>
          <Sign source="folder-outline" size={34} color={over ? t.wine : t.pencil} />
        </View>
        <View style={{ flex: 1, minWidth: 0 }}>
          <Text variant="titleMedium" numberOfLines={1}>
            {folder.name}
          </Text>
          <Text variant="bodySmall" numberOfLines={1} style={{ color: t.pencil }}>
            {[
              documents ? say('documents', { count: documents }) : say('folder.none'),
              ...(to ? [say('folder.goesTo', { to })] : []),
            ].join(say('common.dot'))}
          </Text>
        </View>
      </Pressable>
      <View style={{ justifyContent: 'center' }}>
        <MoreMenu
          label={say('shelf.moreFor', { name: folder.name })}
          entries={[
            { icon: 'pencil', title: say('folder.rename'), onPress: () => onAsk('renameFolder') },
            { icon: 'format-text', title: say('folder.names'), onPress: () => onAsk('folderNames') },
            { icon: 'file-move-outline', title: say('folder.move'), onPress: () => onAsk('moveFolder') },
            ...(onSends ? [{ icon: 'send', title: say('folder.sends'), onPress: onSends }] : []),
            { icon: 'delete-outline', title: say('folder.remove'), onPress: () => onAsk('removeFolder') },
          ]}
        />
      </View>
    </div>
  );
}
