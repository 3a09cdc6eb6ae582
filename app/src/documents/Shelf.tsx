import { Link } from 'expo-router';
import { useDeferredValue, useMemo, useState } from 'react';
import { View } from 'react-native';
import { Button, Text } from 'react-native-paper';
import { shallowEqual } from 'react-redux';
import { changeSettings } from '../store/editing';
import { asideRead, settingsId } from '../store/library';
import { useApp, useAppDispatch } from '../store/store';
import { Action } from '../ui/Action';
import { Banner } from '../ui/Banner';
import { Heading } from '../ui/Heading';
import { IconAction } from '../ui/IconAction';
import { SearchField } from '../ui/SearchField';
import { Stitches } from '../ui/Stitches';
import { useTokens } from '../ui/theme';
import { fonts } from '../ui/tokens';
import { useWide } from '../ui/useWide';
import { VirtualList } from '../ui/VirtualList';
import { dayInWords } from '../ui/words/format';
import { useSay } from '../ui/words/words';
import { bringInDemo } from '../work/demo';
import { install } from '../work/installed';
import { jobOf } from '../work/jobs';
import { DocumentRow } from './DocumentRow';
import { documentsOnShelf, doubtfulOnShelf, shelfRows } from './shelfRows';

const rowPx = { day: 42, document: 101 };
/** One of the demo's documents that are brought in when they are asked for stands for all of them. */
const demoDocument = 'Engine handbook';

/** All documents by day, with what needs attention on top. */
export function Shelf({ selected, beside = false }: { selected?: string; beside?: boolean }) {
  const t = useTokens();
  const say = useSay();
  const wide = useWide();
  const [query, setQuery] = useState('');
  const wanted = useDeferredValue(query);
  const all = useApp(documentsOnShelf);
  const rows = useMemo(() => shelfRows(all, wanted), [all, wanted]);
  const now = new Date();
  return (
    <View style={{ flex: 1 }}>
      <View style={{ padding: 16, paddingTop: 8, gap: 8 }}>
        <View style={{ flexDirection: 'row', alignItems: 'center', justifyContent: 'space-between', minHeight: 48 }}>
          <Heading level={beside ? 2 : 1} style={{ fontFamily: fonts.heading, fontSize: 26, color: t.wine }}>
            {say('app.name')}
          </Heading>
          <View style={{ flexDirection: 'row', alignItems: 'center', gap: 4 }}>
            <Text variant="bodySmall" style={{ color: t.pencil }}>
              {all.length ? say('documents', { count: all.length }) : ''}
            </Text>
            {wide ? null : (
              <Link href="/settings" asChild>
                <IconAction icon="cog-outline" role="link" label={say('nav.settings')} />
              </Link>
            )}
          </View>
        </View>
        <SearchField value={query} label={say('shelf.search')} onChange={setQuery} />
      </View>
      <VirtualList
        testID="shelf-list"
        remembers="shelf"
        style={{ flex: 1, minHeight: 0 }}
        count={rows.length}
        keyOf={(i) => rows[i]!.key}
        sizeOf={(i) => rowPx[rows[i]!.kind]}
        overscan={5}
        header={<Attention />}
        footer={<Foot query={query} empty={!all.length} none={all.length > 0 && !rows.length} />}
        render={(i) => {
          const row = rows[i]!;
          return row.kind === 'document' ? (
            <DocumentRow summary={row.summary} selected={row.key === selected} />
          ) : (
            <Heading
              level={beside ? 3 : 2}
              variant="titleSmall"
              style={{ color: t.pencil, paddingHorizontal: 16, paddingTop: 18, paddingBottom: 2 }}
            >
              {dayInWords(say, row.at, now)}
            </Heading>
          );
        }}
      />
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

function Foot({ query, empty, none }: { query: string; empty: boolean; none: boolean }) {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const importing = useApp((s) => jobOf(s, 'import'));
  const bringing = useApp((s) => jobOf(s, 'demo') !== undefined);
  const hasDemo = useApp((s) => documentsOnShelf(s).some((d) => d.demo && d.name.startsWith(demoDocument)));
  return (
    <>
      {empty && !importing && !bringing ? <FirstRun /> : null}
      {none ? <Text style={{ padding: 16, color: t.pencil }}>{say('shelf.noMatch', { query })}</Text> : null}
      {!hasDemo && !query ? (
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
