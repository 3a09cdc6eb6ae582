import { useState, type ReactNode } from 'react';
import { Pressable, View } from 'react-native';
import { Text, TouchableRipple } from 'react-native-paper';
import { canLieIn, folderTree, type Folder, type Summary } from '@libretto/model';
import { joinDocuments } from '../store/arranging';
import {
  cleanTag,
  fileDocuments,
  foldersOf,
  makeFolder,
  moveFolder,
  removeFolder,
  renameFolder,
  tagDocuments,
} from '../store/filing';
import { useApp, useAppDispatch } from '../store/store';
import { Action } from '../ui/Action';
import { Field } from '../ui/Field';
import { Heading } from '../ui/Heading';
import { Over } from '../ui/Over';
import { Sign } from '../ui/Sign';
import { useTokens } from '../ui/theme';
import { corner } from '../ui/tokens';
import { VirtualList } from '../ui/VirtualList';
import { useSay } from '../ui/words/words';
import { BackupSheet } from './BackupSheet';
import { documentsOnShelf, tagsOnShelf } from './shelfRows';

/** What is asked about folders, or about documents. */
export interface Asking {
  what: 'newFolder' | 'renameFolder' | 'moveFolder' | 'removeFolder' | 'file' | 'tags' | 'join' | 'backup';
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

function Sheet({ title, onClose, children }: { title: string; onClose: () => void; children: ReactNode }) {
  return (
    <Over low label={title} maxWidth={560} onClose={onClose}>
      <View style={{ padding: 16, gap: 12 }}>
        <Heading level={2} variant="titleLarge">
          {title}
        </Heading>
        {children}
      </View>
    </Over>
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

const mostOffered = 10;

/** The tags of documents: those that all of them have can be taken off, and further ones given. */
function TagSheet({ documents: asked, onClose }: { documents: readonly Summary[]; onClose: () => void }) {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const all = useApp(documentsOnShelf);
  const [typed, setTyped] = useState('');
  const ids = asked.map((d) => d.id);
  const documents = all.filter((d) => ids.includes(d.id));
  const having = (tag: string) => documents.filter((d) => d.tags?.includes(tag)).length;
  const own = [...new Set(documents.flatMap((d) => d.tags ?? []))];
  const beginning = typed.trim().toLowerCase();
  const offered = useApp(tagsOnShelf)
    .filter((tag) => !own.includes(tag) && tag.toLowerCase().includes(beginning))
    .slice(0, mostOffered);
  const give = (tag: string) => {
    if (cleanTag(tag)) void dispatch(tagDocuments(documents, { add: [tag] }));
    setTyped('');
  };
  const word = (tag: string, on: boolean, label: string, onPress: () => void, icon: string) => (
    <TouchableRipple
      key={tag}
      role="button"
      aria-label={label}
      onPress={onPress}
      style={{
        minHeight: 44,
        justifyContent: 'center',
        paddingHorizontal: 12,
        borderRadius: corner,
        borderWidth: 1,
        borderColor: on ? t.wine : t.hairline,
      }}
    >
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: 6 }}>
        <Text style={{ color: on ? t.wine : t.ink }}>{tag}</Text>
        <Sign source={icon} size={16} color={on ? t.wine : t.pencil} />
      </View>
    </TouchableRipple>
  );
  return (
    <Sheet title={say('tags.of', { count: documents.length })} onClose={onClose}>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
        {own.map((tag) =>
          having(tag) === documents.length
            ? word(tag, true, say('tags.take', { tag }), () => void dispatch(tagDocuments(documents, { remove: [tag] })), 'close')
            : word(tag, false, say('tags.giveAll', { tag }), () => give(tag), 'plus'),
        )}
        {own.length ? null : <Text style={{ color: t.pencil }}>{say('tags.none')}</Text>}
      </View>
      <View style={{ flexDirection: 'row', gap: 8 }}>
        <Field
          autoFocus
          label={say('tags.new')}
          value={typed}
          onChangeText={setTyped}
          onSubmitEditing={() => give(typed)}
          maxLength={60}
          style={{ flex: 1 }}
        />
        <Action disabled={!cleanTag(typed)} onPress={() => give(typed)}>
          {say('tags.give')}
        </Action>
      </View>
      {offered.length ? (
        <View role="group" aria-label={say('tags.known')} style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
          {offered.map((tag) => word(tag, false, say('tags.giveAll', { tag }), () => give(tag), 'plus'))}
        </View>
      ) : null}
      <Action main onPress={onClose}>
        {say('common.done')}
      </Action>
    </Sheet>
  );
}
