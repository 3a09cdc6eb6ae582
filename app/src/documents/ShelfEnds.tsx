import { Link } from 'expo-router';
import { View } from 'react-native';
import { Button, Text } from 'react-native-paper';
import { shallowEqual } from 'react-redux';
import { needsAttention } from '@libretto/model';
import { changeSettings } from '../store/editing';
import { asideRead, settingsId } from '../store/library';
import { useApp, useAppDispatch } from '../store/store';
import { Action } from '../ui/Action';
import { Banner } from '../ui/Banner';
import { Heading } from '../ui/Heading';
import { Stitches } from '../ui/Stitches';
import { useTokens } from '../ui/theme';
import { useRoom } from '../ui/useRoom';
import { fileSize } from '../ui/words/format';
import { useSay } from '../ui/words/words';
import { bringInDemo } from '../work/demo';
import { install } from '../work/installed';
import { jobOf } from '../work/jobs';
import { documentsOnShelf, doubtfulOnShelf } from './shelfRows';

/** One of the demo's documents that are brought in when they are asked for stands for all of them. */
const demoDocument = 'Engine handbook';

/** What needs attention: doubts, deliveries that failed, records that could not be read. */
export function Attention() {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const room = useRoom();
  const doubtful = useApp(doubtfulOnShelf);
  const failed = useApp((s) => Object.values(s.library.delivery).filter(needsAttention), shallowEqual);
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
      {room?.short ? (
        <Banner
          tone="attention"
          icon="alert-circle-outline"
          title={say('room.banner')}
          detail={say('room.bannerAbout', { left: fileSize(Math.max(0, room.allowed - room.used)) })}
        >
          <Link href="/settings" asChild>
            <Button mode="text" role="link">
              {say('room.see')}
            </Button>
          </Link>
        </Banner>
      ) : null}
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

export interface FootProps {
  query: string;
  /** There is nothing at all. */
  empty: boolean;
  /** Nothing fits what is looked for. */
  none: boolean;
  /** The open folder has nothing in it. */
  bare: boolean;
  root: boolean;
}

export function Foot({ query, empty, none, bare, root }: FootProps) {
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
