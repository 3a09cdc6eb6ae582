import { Link } from 'expo-router';
import { useDeferredValue, useLayoutEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { Button, Text } from 'react-native-paper';
import { shallowEqual } from 'react-redux';
import { redoLast, undoLast } from '../store/change';
import { changeSettings } from '../store/editing';
import { binDocuments, foldersOf } from '../store/filing';
import { asideRead, settingsId } from '../store/library';
import { useApp, useAppDispatch } from '../store/store';
import { Action } from '../ui/Action';
import { Banner } from '../ui/Banner';
import { Heading } from '../ui/Heading';
import { IconAction } from '../ui/IconAction';
import { SearchField } from '../ui/SearchField';
import { Stitches } from '../ui/Stitches';
import { useTokens } from '../ui/theme';
import { useKeys } from '../ui/useKeys';
import { fonts } from '../ui/tokens';
import { useWide } from '../ui/useWide';
import { VirtualList } from '../ui/VirtualList';
import { dayInWords } from '../ui/words/format';
import { useSay } from '../ui/words/words';
import { bringInDemo } from '../work/demo';
import { install } from '../work/installed';
import { jobOf } from '../work/jobs';
import { useTextHits } from '../work/searching';
import { DocumentRow, type DocumentActions } from './DocumentRow';
import { FolderRow } from './FolderRow';
import { FilingSheets, ShelfBar } from './lazy';
import type { Asking } from './FilingSheets';
import { documentsInBin, documentsOnShelf, doubtfulOnShelf, looksBelow, shelfRows, type ShelfFilter } from './shelfRows';
import { useSelection, type Selection } from './useSelection';
import { ViewRow, Way } from './ViewRow';

const rowPx = { folder: 60, day: 42, document: 101 };
/** One of the demo's documents that are brought in when they are asked for stands for all of them. */
const demoDocument = 'Engine handbook';

export interface ShelfProps {
  selected?: string;
  /** It stands beside a document. */
  beside?: boolean;
  /** The folder that is open; null: the shelf itself. */
  folder: string | null;
  onFolder: (id: string | null) => void;
}

/** A folder's folders and documents, with what needs attention on top. */
export function Shelf({ selected, beside = false, folder, onFolder }: ShelfProps) {
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
  const open = folder && folders[folder] ? folder : null;
  const view = useMemo(() => ({ folder: open, query, order, filter, tag }), [open, query, order, filter, tag]);
  const wanted = useDeferredValue(view);
  const hits = useTextHits(query);
  const rows = useMemo(() => shelfRows(all, folders, wanted, { hits: new Set(hits.keys()) }), [all, folders, wanted, hits]);
  const selection = useSelection(useMemo(() => rows.flatMap((r) => (r.kind === 'document' ? r.key : [])), [rows]));
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
    <View style={{ flex: 1 }}>
      {selection.on ? (
        <SelectionHead selection={selection} total={all.length} />
      ) : (
        <Head beside={beside} count={all.length}>
          <SearchField value={query} label={say('shelf.search')} onChange={setQuery} />
          <ViewRow
            order={order}
            filter={filter}
            tag={tag}
            onOrder={(next) => void dispatch(changeSettings(settings, { shelfOrder: next }))}
            onFilter={setFilter}
            onTag={setTag}
            onFolder={() => setAsking({ what: 'newFolder', documents: [] })}
          />
          <Way folders={folders} folder={open} onFolder={onFolder} />
        </Head>
      )}
      <VirtualList
        key={open}
        testID="shelf-list"
        remembers={`shelf ${open}`}
        style={{ flex: 1, minHeight: 0 }}
        count={rows.length}
        keyOf={(i) => rows[i]!.key}
        sizeOf={(i) => rowPx[rows[i]!.kind]}
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
          const row = rows[i]!;
          if (row.kind === 'folder')
            return (
              <FolderRow
                folder={row.folder}
                documents={row.documents}
                onOpen={() => onFolder(row.key)}
                onAsk={(what) => setAsking({ what, folder: row.folder, documents: [] })}
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
            <DayHead level={beside ? 3 : 2} words={dayInWords(say, row.at, now)} />
          );
        }}
      />
      {selection.on ? (
        <ShelfBar documents={chosen} onAsk={(what) => setAsking({ what, documents: chosen })} onEnd={selection.end} />
      ) : null}
      {asking ? (
        <FilingSheets asking={asking} at={open} onClose={() => setAsking(null)} onDone={selection.end} onFolder={onFolder} />
      ) : null}
    </View>
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

/** What needs attention: doubts, deliveries that failed, records that could not be read. */
function Attention() {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const doubtful = useApp(doubtfulOnShelf);
  const failed = useApp(
    (s) => Object.values(s.library.delivery).filter((d) => d.state === 'failed' && d.reason?.code !== 'cancelled'),
    shallowEqual,
  );
  const aside = useApp((s) => s.library.aside.length);
  const settings = useApp((s) => s.library.settings[settingsId]!);
  // Once, after the first document has arrived: until then there is nothing to come back for.
  const arrived = useApp(
    (s) => s.session.installable && Object.values(s.library.summary).some(({ fate }) => fate.code === 'arrived'),
  );
  const offered = arrived && !settings.installOffered;
  const doubts = doubtful.reduce((n, d) => n + d.doubts, 0);
  const some = (names: readonly string[]) => names.slice(0, 4).join(say('common.comma')) + (names.length > 4 ? ' …' : '');
  return (
    <>
      {doubts ? (
        <Banner
          tone="attention"
          icon="eye-outline"
          title={say('shelf.doubts', { count: doubts })}
          detail={some(doubtful.map((d) => d.name))}
        >
          <Link href={`/document/${doubtful[0]!.id}`} asChild>
            <Button mode="text" role="link">
              {say('shelf.review')}
            </Button>
          </Link>
        </Banner>
      ) : null}
      {failed.length ? (
        <Banner
          tone="failed"
          icon="alert-circle-outline"
          title={say('shelf.failed', { count: failed.length })}
          detail={some(failed.map((d) => say('shelf.fileTo', { file: d.fileName, place: d.place.name })))}
        >
          <Link href="/outbox" asChild>
            <Button mode="text" role="link" textColor={t.rust}>
              {say('outbox.title')}
            </Button>
          </Link>
        </Banner>
      ) : null}
      {offered ? (
        <Banner tone="attention" icon="cellphone-arrow-down" title={say('shelf.install')}>
          <Button
            mode="text"
            onPress={() => void install(dispatch).then(() => dispatch(changeSettings(settings, { installOffered: true })))}
          >
            {say('shelf.installNow')}
          </Button>
          <Button mode="text" onPress={() => void dispatch(changeSettings(settings, { installOffered: true }))}>
            {say('common.dismiss')}
          </Button>
        </Banner>
      ) : null}
      {aside ? (
        <Banner tone="attention" icon="tray-alert" title={say('shelf.aside', { count: aside })} detail={say('shelf.asideDetail')}>
          <Button mode="text" onPress={() => dispatch(asideRead())}>
            {say('common.dismiss')}
          </Button>
        </Banner>
      ) : null}
    </>
  );
}

interface FootProps {
  query: string;
  /** There is nothing at all. */
  empty: boolean;
  /** Nothing fits what is looked for. */
  none: boolean;
  /** The open folder has nothing in it. */
  bare: boolean;
  root: boolean;
}

function Foot({ query, empty, none, bare, root }: FootProps) {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const importing = useApp((s) => jobOf(s, 'import'));
  const bringing = useApp((s) => jobOf(s, 'demo') !== undefined);
  const hasDemo = useApp((s) => documentsOnShelf(s).some((d) => d.demo && d.name.startsWith(demoDocument)));
  return (
    <>
      {empty && !importing && !bringing ? <FirstRun /> : null}
      {none ? (
        <Text style={{ padding: 16, color: t.pencil }}>{query ? say('shelf.noMatch', { query }) : say('shelf.noneSuch')}</Text>
      ) : null}
      {bare ? <Text style={{ padding: 16, color: t.pencil }}>{say('folder.empty')}</Text> : null}
      {!hasDemo && !query && root && !none ? (
        <View style={{ padding: 16, paddingTop: 24, gap: 12 }}>
          <Stitches />
          <Text variant="bodySmall" style={{ color: t.pencil }}>
            {say('shelf.demo')}
          </Text>
          <Action
            icon="image-multiple-outline"
            onPress={() => void dispatch(bringInDemo(false)).catch(() => {})}
            loading={bringing}
            disabled={bringing}
            style={{ alignSelf: 'flex-start' }}
          >
            {say('shelf.demoMore')}
          </Action>
        </View>
      ) : null}
      {importing ? (
        <Text role="status" variant="bodySmall" style={{ padding: 16, color: t.pencil }}>
          {say('shelf.bringing', { done: importing.done, total: importing.total })}
        </Text>
      ) : null}
    </>
  );
}

function FirstRun() {
  const say = useSay();
  const t = useTokens();
  return (
    <View style={{ padding: 16, gap: 14 }}>
      <Heading level={2} variant="titleMedium">
        {say('shelf.empty')}
      </Heading>
      <Stitches />
      {(['tip1', 'tip2', 'tip3'] as const).map((tip) => (
        <Text key={tip}>{say(`shelf.${tip}`)}</Text>
      ))}
      <Link href="/capture" asChild>
        <Action main role="link" style={{ alignSelf: 'flex-start' }}>
          {say('shelf.first')}
        </Action>
      </Link>
      <Text variant="bodySmall" style={{ color: t.pencil }}>
        {say('shelf.private')}
      </Text>
    </View>
  );
}
