import { useState } from 'react';
import { Pressable, View } from 'react-native';
import { Text } from 'react-native-paper';
import { canLieIn, folderTree, type Folder, type Summary } from '@libretto/model';
import { joinDocuments } from '../store/arranging';
import { fileDocuments, foldersOf, makeFolder, moveFolder, removeFolder, renameFolder } from '../store/filing';
import { useApp, useAppDispatch } from '../store/store';
import { Action } from '../ui/Action';
import { Field } from '../ui/Field';
import { Sign } from '../ui/Sign';
import { useTokens } from '../ui/theme';
import { Sheet } from '../ui/Sheet';
import { VirtualList } from '../ui/VirtualList';
import { useSay } from '../ui/words/words';
import { BackupSheet } from './BackupSheet';
import { FolderNames } from './FolderNames';
import { RenameSheet } from './RenameSheet';
import { TagSheet } from './TagSheet';

/** What is asked about folders, or about documents. */
export interface Asking {
  what:
    'newFolder' | 'renameFolder' | 'moveFolder' | 'removeFolder' | 'folderNames' | 'file' | 'tags' | 'rename' | 'join' | 'backup';
  folder?: Folder;
  documents: readonly Summary[];
}

export interface FilingSheetsProps {
  asking: Asking;
  /** The folder that is open. */
  at: string | null;
  onClose: () => void;
  /** It is done, and nothing need stay chosen. */
  onDone: () => void;
  onFolder: (id: string | null) => void;
}

/** The sheet that asks it. */
export function FilingSheets({ asking, at, onClose, onDone, onFolder }: FilingSheetsProps) {
  const say = useSay();
  const dispatch = useAppDispatch();
  const { what, folder, documents } = asking;
  const done = () => {
    onClose();
    onDone();
  };
  if (what === 'backup') return <BackupSheet documents={documents} onClose={done} />;
  if (what === 'rename') return <RenameSheet documents={documents} onClose={onClose} onDone={done} />;
  if (what === 'newFolder' || (what === 'renameFolder' && folder))
    return (
      <NameSheet
        title={say(folder ? 'folder.rename' : 'folder.new')}
        before={folder?.name ?? ''}
        onName={(name) => {
          void (folder ? dispatch(renameFolder(folder, name)) : dispatch(makeFolder(name, at)));
          onClose();
        }}
        onClose={onClose}
      />
    );
  if (what === 'moveFolder' && folder)
    return (
      <FolderSheet
        title={say('folder.moveTitle', { name: folder.name })}
        now={folder.parent}
        can={(id, folders) => canLieIn(folders, folder.id, id)}
        onUse={(to) => {
          void dispatch(moveFolder(folder, to?.id ?? null));
          onClose();
        }}
        onClose={onClose}
      />
    );
  if (what === 'removeFolder' && folder)
    return (
      <RemoveSheet
        folder={folder}
        onRemove={() => {
          void dispatch(removeFolder(folder));
          if (at === folder.id) onFolder(folder.parent);
          onClose();
        }}
        onClose={onClose}
      />
    );
  if (what === 'folderNames' && folder) return <FolderNames folder={folder} onClose={onClose} />;
  if (what === 'tags') return <TagSheet documents={documents} onClose={done} />;
  if (what === 'join')
    return (
      <JoinSheet
        documents={documents}
        onJoin={(into) => {
          void dispatch(joinDocuments(into, documents.flatMap((d) => (d.id === into.id ? [] : d.id)))); // prettier-ignore
          done();
        }}
        onClose={onClose}
      />
    );
  return (
    <FolderSheet
      title={say('folder.fileTitle', { count: documents.length })}
      now={documents.length === 1 ? (documents[0]!.folder ?? null) : undefined}
      can={() => true}
      onUse={(to) => {
        void dispatch(fileDocuments(documents, to));
        done();
      }}
      onMake={(name) => {
        void dispatch(makeFolder(name, at, documents));
        done();
      }}
      onClose={onClose}
    />
  );
}

function NameSheet({
  title,
  before,
  onName,
  onClose,
}: {
  title: string;
  before: string;
  onName: (name: string) => void;
  onClose: () => void;
}) {
  const say = useSay();
  const [name, setName] = useState(before);
  const keep = () => name.trim() && onName(name);
  return (
    <Sheet title={title} onClose={onClose}>
      <Field
        autoFocus
        selectTextOnFocus
        label={say('folder.name')}
        value={name}
        onChangeText={setName}
        onSubmitEditing={keep}
        maxLength={80}
      />
      <Action main disabled={!name.trim()} onPress={keep}>
        {say('common.done')}
      </Action>
      <Action onPress={onClose}>{say('common.cancel')}</Action>
    </Sheet>
  );
}

const rowPx = 52;

interface FolderSheetProps {
  title: string;
  /** Where it lies now; undefined: in several. */
  now: string | null | undefined;
  can: (id: string | null, folders: ReturnType<typeof foldersOf>) => boolean;
  onUse: (folder: Folder | null) => void;
  onMake?: (name: string) => void;
  onClose: () => void;
}

/** All folders, to choose one of. */
function FolderSheet({ title, now, can, onUse, onMake, onClose }: FolderSheetProps) {
  const t = useTokens();
  const say = useSay();
  const folders = useApp(foldersOf);
  const [name, setName] = useState('');
  const tree: { folder: Folder | null; depth: number }[] = [{ folder: null, depth: 0 }, ...folderTree(folders, null, 1)];
  const make = () => name.trim() && onMake?.(name);
  return (
    <Sheet title={title} onClose={onClose}>
      <VirtualList
        label={say('folder.all')}
        style={{ height: Math.min(6.5, tree.length) * rowPx }}
        count={tree.length}
        keyOf={(i) => tree[i]!.folder?.id ?? 'shelf'}
        sizeOf={() => rowPx}
        render={(i) => {
          const { folder, depth } = tree[i]!;
          const id = folder?.id ?? null;
          const here = now !== undefined && id === now;
          return (
            <Pressable
              role="button"
              disabled={here || !can(id, folders)}
              onPress={() => onUse(folder)}
              style={{
                flexDirection: 'row',
                alignItems: 'center',
                gap: 12,
                minHeight: rowPx,
                paddingLeft: depth * 20,
                borderBottomWidth: 1,
                borderColor: t.hairline,
                opacity: can(id, folders) ? 1 : 0.4,
              }}
            >
              <Sign source={folder ? 'folder-outline' : 'bookshelf'} size={24} color={here ? t.wine : t.pencil} />
              <Text style={{ flex: 1, color: here ? t.wine : t.ink }} numberOfLines={1}>
                {folder?.name ?? say('folder.top')}
              </Text>
              {here ? <Sign source="check" size={20} color={t.wine} /> : null}
            </Pressable>
          );
        }}
      />
      {onMake ? (
        <View style={{ flexDirection: 'row', gap: 8 }}>
          <Field
            label={say('folder.new')}
            value={name}
            onChangeText={setName}
            onSubmitEditing={make}
            maxLength={80}
            style={{ flex: 1 }}
          />
          <Action disabled={!name.trim()} onPress={make}>
            {say('folder.make')}
          </Action>
        </View>
      ) : null}
      <Action onPress={onClose}>{say('common.cancel')}</Action>
    </Sheet>
  );
}

function RemoveSheet({ folder, onRemove, onClose }: { folder: Folder; onRemove: () => void; onClose: () => void }) {
  const say = useSay();
  return (
    <Sheet title={say('folder.removeTitle', { name: folder.name })} onClose={onClose}>
      <Text>{say('folder.removeAbout')}</Text>
      <Action main onPress={onRemove}>
        {say('folder.remove')}
      </Action>
      <Action onPress={onClose}>{say('common.cancel')}</Action>
    </Sheet>
  );
}

function JoinSheet({
  documents,
  onJoin,
  onClose,
}: {
  documents: readonly Summary[];
  onJoin: (into: Summary) => void;
  onClose: () => void;
}) {
  const t = useTokens();
  const say = useSay();
  return (
    <Sheet title={say('shelf.joinTitle', { count: documents.length })} onClose={onClose}>
      <Text>{say('shelf.joinAbout')}</Text>
      {documents.map((d) => (
        <Pressable
          key={d.id}
          role="button"
          onPress={() => onJoin(d)}
          style={{ minHeight: rowPx, justifyContent: 'center', borderBottomWidth: 1, borderColor: t.hairline }}
        >
          <Text numberOfLines={1}>{d.name}</Text>
          <Text variant="bodySmall" style={{ color: t.pencil }}>
            {say('pages', { count: d.pages })}
          </Text>
        </Pressable>
      ))}
      <Action onPress={onClose}>{say('common.cancel')}</Action>
    </Sheet>
  );
}
