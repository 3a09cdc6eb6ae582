import { Link } from 'expo-router';
import { useDeferredValue, useLayoutEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { Button, Text } from 'react-native-paper';
import { redoLast, undoLast } from '../store/change';
import { changeSettings } from '../store/editing';
import { binDocuments, foldersOf } from '../store/filing';
import { settingsId } from '../store/library';
import { useApp, useAppDispatch } from '../store/store';
import { Heading } from '../ui/Heading';
import { IconAction } from '../ui/IconAction';
import { SearchField } from '../ui/SearchField';
import { useTokens } from '../ui/theme';
import { useKeys } from '../ui/useKeys';
import { fonts } from '../ui/tokens';
import { useMeasured } from '../ui/useMeasured';
import { useWide } from '../ui/useWide';
import { VirtualList } from '../ui/VirtualList';
import { stretchInWords } from '../ui/words/format';
import { useSay } from '../ui/words/words';
import { useTextHits } from '../work/searching';
import { DocumentRow, type DocumentActions } from './DocumentRow';
import { FolderRow } from './FolderRow';
import { CoverRow, FilingSheets, ShelfBar } from './lazy';
import type { Asking } from './FilingSheets';
import { documentsInBin, documentsOnShelf, inCovers, looksBelow, shelfRows, type ShelfFilter } from './shelfRows';
import { useSelection, type Selection } from './useSelection';
import { ViewRow, Way } from './ViewRow';
import { Attention, Foot } from './ShelfEnds';

const rowPx = { folder: 60, day: 42, document: 101, covers: 230 };

export interface ShelfProps {
  selected?: string;
  /** It stands beside a document. */
  beside?: boolean;
  /** The folder that is open; null: the shelf itself. */
  folder: string | null;
  onFolder: (id: string | null) => void;
  /** Where a folder sends by itself is to be said. */
  onFolderSends?: (id: string) => void;
  /** Several documents are to be sent; `end` when they are on their way. */
  onSend?: (ids: readonly string[], end: () => void) => void;
}

/** A folder's folders and documents, with what needs attention on top. */
export function Shelf({ selected, beside = false, folder, onFolder, onFolderSends, onSend }: ShelfProps) {
  const say = useSay();
  const dispatch = useAppDispatch();
  const [query, setQuery] = useState('');
  const [filter, setFilter] = useState<ShelfFilter | null>(null);
  const [tag, setTag] = useState<string | null>(null);
  const [asking, setAsking] = useState<Asking | null>(null);
  const settings = useApp((s) => s.library.settings[settingsId]!);
  const folders = useApp(foldersOf);
  const all = useApp(documentsOnShelf);
  const order = settings.shelfOrder ?? 'newest';
  const group = settings.shelfGroups ?? 'day';
  const open = folder && folders[folder] ? folder : null;
  const view = useMemo(() => ({ folder: open, query, order, group, filter, tag }), [open, query, order, group, filter, tag]);
  const wanted = useDeferredValue(view);
  const hits = useTextHits(query);
  const rows = useMemo(() => shelfRows(all, folders, wanted, { hits: new Set(hits.keys()) }), [all, folders, wanted, hits]);
  const selection = useSelection(useMemo(() => rows.flatMap((r) => (r.kind === 'document' ? r.key : [])), [rows]));
  const box = useRef<HTMLDivElement>(null);
  const { width } = useMeasured(box);
  const columns = Math.max(2, Math.floor((width - 20) / 118));
  // What is looked for shows where it was found.
  const covers = (settings.shelfCovers ?? false) && !query;
  const shown = useMemo(() => (covers ? inCovers(rows, columns) : rows), [rows, covers, columns]);
  const chosen = useMemo(() => all.filter((d) => selection.has(d.id)), [all, selection]);
  useKeys({ 'mod+z': () => void dispatch(undoLast()), 'mod+y': () => void dispatch(redoLast()) }, { enabled: !beside });
  const now = new Date();
  const below = looksBelow(view);
  const actions = useMemo<DocumentActions>(
    () => ({
      ask: (what, summary) => setAsking({ what, documents: [summary] }),
      bin: (summary) => void dispatch(binDocuments([summary])),
      toggle: (id, reach) => (reach ? latest.current.reach(id) : latest.current.toggle(id)),
    }),
    [dispatch],
  );
  const latest = useRef(selection);
  useLayoutEffect(() => {
    latest.current = selection;
  });
  return (
    <div ref={box} style={{ display: 'flex', flexDirection: 'column', flex: 1, minHeight: 0 }}>
      {selection.on ? (
        <SelectionHead selection={selection} total={all.length} />
      ) : (
        <Head beside={beside} count={all.length}>
          <SearchField value={query} label={say('shelf.search')} onChange={setQuery} />
          <ViewRow
            order={order}
            group={group}
            filter={filter}
            tag={tag}
            onGroup={(next) => void dispatch(changeSettings(settings, { shelfGroups: next }))}
            onOrder={(next) => void dispatch(changeSettings(settings, { shelfOrder: next }))}
            onFilter={setFilter}
            onTag={setTag}
            covers={settings.shelfCovers ?? false}
            onCovers={(shelfCovers) => void dispatch(changeSettings(settings, { shelfCovers }))}
            onFolder={() => setAsking({ what: 'newFolder', documents: [] })}
          />
          <Way folders={folders} folder={open} onFolder={onFolder} {...(onFolderSends && { onSends: onFolderSends })} />
        </Head>
      )}
      <VirtualList
        key={open}
        testID="shelf-list"
        remembers={`shelf ${open}`}
        style={{ flex: 1, minHeight: 0 }}
        count={shown.length}
        keyOf={(i) => shown[i]!.key}
        sizeOf={(i) => rowPx[shown[i]!.kind]}
        overscan={5}
        header={open || below ? null : <Attention />}
        footer={
          <Foot
            query={below ? query : ''}
            empty={!all.length && !rows.length}
            none={below && !rows.length}
            bare={open !== null && !below && !rows.length}
            root={!open}
          />
        }
        render={(i) => {
          const row = shown[i]!;
          if (row.kind === 'covers')
            return (
              <CoverRow
                summaries={row.summaries}
                columns={columns}
                selected={selected}
                actions={actions}
                {...(selection.on && { chosen: selection.has })}
              />
            );
          if (row.kind === 'folder')
            return (
              <FolderRow
                folder={row.folder}
                documents={row.documents}
                onOpen={() => onFolder(row.key)}
                onAsk={(what) => setAsking({ what, folder: row.folder, documents: [] })}
                {...(onFolderSends && { onSends: () => onFolderSends(row.folder.id) })}
              />
            );
          return row.kind === 'document' ? (
            <DocumentRow
              summary={row.summary}
              selected={row.key === selected}
              {...(below && { hit: hits.get(row.key) })}
              actions={actions}
              {...(selection.on && { chosen: selection.has(row.key) })}
            />
          ) : (
            <DayHead level={beside ? 3 : 2} words={stretchInWords(say, row.at, row.group, now)} />
          );
        }}
      />
      {selection.on ? (
        <ShelfBar
          documents={chosen}
          onAsk={(what) => setAsking({ what, documents: chosen })}
          onEnd={selection.end}
          {...(onSend && {
            onSend: () =>
              onSend(
                chosen.map((d) => d.id),
                selection.end,
              ),
          })}
        />
      ) : null}
      {asking ? (
        <FilingSheets asking={asking} at={open} onClose={() => setAsking(null)} onDone={selection.end} onFolder={onFolder} />
      ) : null}
    </div>
  );
}

function DayHead({ level, words }: { level: 2 | 3; words: string }) {
  const t = useTokens();
  return (
    <Heading
      level={level}
      variant="titleSmall"
      style={{ color: t.pencil, paddingHorizontal: 16, paddingTop: 18, paddingBottom: 2 }}
    >
      {words}
    </Heading>
  );
}

function Head({ beside, count, children }: { beside: boolean; count: number; children: ReactNode }) {
  const t = useTokens();
  const say = useSay();
  const wide = useWide();
  return (
    <View style={{ paddingHorizontal: 16, paddingTop: 8, gap: 8 }}>
      <View style={{ flexDirection: 'row', alignItems: 'center', justifyContent: 'space-between', minHeight: 48 }}>
        <Heading level={beside ? 2 : 1} style={{ fontFamily: fonts.heading, fontSize: 26, color: t.wine }}>
          {say('app.name')}
        </Heading>
        <View style={{ flexDirection: 'row', alignItems: 'center', gap: 4 }}>
          <Text variant="bodySmall" style={{ color: t.pencil }}>
            {count ? say('documents', { count }) : ''}
          </Text>
          <BinLink />
          {wide ? null : (
            <Link href="/settings" asChild>
              <IconAction icon="cog-outline" role="link" label={say('nav.settings')} />
            </Link>
          )}
        </View>
      </View>
      {children}
    </View>
  );
}

function BinLink() {
  const say = useSay();
  const count = useApp((s) => documentsInBin(s).length);
  return count ? (
    <Link href="/bin" asChild>
      <IconAction icon="delete-outline" role="link" label={say('bin.count', { count })} />
    </Link>
  ) : null;
}

function SelectionHead({ selection, total }: { selection: Selection; total: number }) {
  const say = useSay();
  return (
    <View style={{ flexDirection: 'row', alignItems: 'center', paddingHorizontal: 4, paddingTop: 8, minHeight: 56 }}>
      <IconAction icon="close" label={say('select.end')} onPress={selection.end} />
      <Heading level={2} variant="titleLarge" style={{ flex: 1 }}>
        {say('select.count', { count: selection.ids.length, total })}
      </Heading>
      <Button mode="text" compact onPress={() => selection.set(selection.all)}>
        {say('select.all')}
      </Button>
    </View>
  );
}
