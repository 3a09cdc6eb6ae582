import { Link, useRouter } from 'expo-router';
import { memo, useEffect, useMemo, useState } from 'react';
import { ScrollView, View } from 'react-native';
import { Button, Text } from 'react-native-paper';
import { isOpenDelivery, needsAttention, safeFileName, type Delivery } from '@libretto/model';
import { openDeliveries } from '../store/open';
import { noticed } from '../store/session';
import { useApp, useAppDispatch } from '../store/store';
import { Heading } from '../ui/Heading';
import { MoreMenu } from '../ui/MoreMenu';
import { SearchField } from '../ui/SearchField';
import { ToggleWord } from '../ui/ToggleWord';
import { Progress } from '../ui/Progress';
import { Sign } from '../ui/Sign';
import { useTokens } from '../ui/theme';
import { corner } from '../ui/tokens';
import { useTitle } from '../ui/useTitle';
import { VirtualList } from '../ui/VirtualList';
import { fileSize, problemAlone, problemInWords, whenInWords } from '../ui/words/format';
import { useSay, type WordKey } from '../ui/words/words';
import { saveBlob } from '../work/saveBlob';
import { historyCsv, isSought, placesUsed } from './history';
import { cancelSending, pauseSending, saidToHaveArrived, tryAgain } from './outbox';

type Row = { kind: 'head'; key: string; title: WordKey } | { kind: 'delivery'; key: string; delivery: Delivery | null };

const isCancelled = (d: Delivery) => d.state === 'failed' && d.reason?.code === 'cancelled';

const groups: { title: WordKey; holds: (d: Delivery) => boolean }[] = [
  { title: 'outbox.attention', holds: needsAttention },
  { title: 'outbox.under', holds: isOpenDelivery },
  { title: 'outbox.arrived', holds: (d) => d.state === 'arrived' },
  { title: 'outbox.cancelled', holds: isCancelled },
];

/** From so many on they can be searched. */
const leastToSearch = 5;
/** How many deliveries are read at a time. */
const portion = 60;

/** Every delivery: on the way, needing attention, arrived with its proof. */
export function Outbox() {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  useTitle(say('outbox.title'));
  const held = useApp((s) => s.library.delivery);
  const posted = useApp((s) => s.library.outbox);
  const [query, setQuery] = useState('');
  const [place, setPlace] = useState<string | null>(null);
  const all = useMemo(() => posted.flatMap((p) => held[p.id] ?? []), [held, posted]);
  const places = useMemo(() => placesUsed(all), [all]);
  const save = () => {
    const heads = (['sent', 'file', 'bytes', 'place', 'folder', 'addresses', 'state', 'arrived', 'where', 'sha256', 'readBack', 'messageId', 'receipt'] as const).map((id) => say(`outbox.csv.${id}`)); // prettier-ignore
    const sought = all.filter((d) => isSought(d, query, place));
    const stateOf = (d: Delivery) => say(groups.find((g) => g.holds(d))?.title ?? 'outbox.under');
    saveBlob(new Blob([historyCsv(sought, heads, stateOf)], { type: 'text/csv' }), safeFileName(say('outbox.csvName'), 'csv'));
  };
  const rows = useMemo((): Row[] => {
    const known = posted.flatMap((p) => held[p.id] ?? []).filter((d) => isSought(d, query, place));
    const unread = posted.filter((p) => !held[p.id]).slice(0, portion);
    return [
      ...groups.flatMap(({ title, holds }): Row[] => {
        const list = known.filter(holds);
        const read: Row[] = list.map((delivery) => ({ kind: 'delivery', key: delivery.id, delivery }));
        return list.length ? [{ kind: 'head', key: title, title }, ...read] : [];
      }),
      ...(query || place ? [] : unread).map((p): Row => ({ kind: 'delivery', key: p.id, delivery: null })),
    ];
  }, [held, posted, query, place]);
  const missing = useMemo(() => posted.filter((p) => !held[p.id]).slice(0, portion), [held, posted]);
  useEffect(() => {
    if (missing.length) void dispatch(openDeliveries(missing.map((p) => p.id)));
  }, [dispatch, missing]);
  return (
    <VirtualList
      testID="outbox-list"
      remembers="outbox"
      style={{ flex: 1, minHeight: 0 }}
      count={rows.length}
      keyOf={(i) => rows[i]!.key}
      sizeOf={(i) => (rows[i]!.kind === 'head' ? 34 : 110)}
      paddingEnd={16}
      header={
        <View style={{ padding: 16, paddingBottom: 4, gap: 10, maxWidth: 752 }}>
          <View style={{ flexDirection: 'row', alignItems: 'center' }}>
            <Heading variant="headlineLarge" style={{ flex: 1 }}>
              {say('outbox.title')}
            </Heading>
            {all.length ? (
              <MoreMenu
                label={say('common.more')}
                entries={[
                  { icon: 'cellphone-arrow-down', title: say('outbox.saveCsv'), disabled: missing.length > 0, onPress: save },
                ]}
              />
            ) : null}
          </View>
          {all.length > leastToSearch || query || place ? (
            <>
              <SearchField value={query} label={say('outbox.search')} onChange={setQuery} />
              {places.length > 1 ? (
                <ScrollView horizontal showsHorizontalScrollIndicator={false} contentContainerStyle={{ gap: 6 }}>
                  {places.map(({ id, name }) => (
                    <ToggleWord key={id} on={place === id} words={name} onPress={() => setPlace(place === id ? null : id)} />
                  ))}
                </ScrollView>
              ) : null}
            </>
          ) : null}
        </View>
      }
      footer={
        rows.length ? null : (
          <Text role="status" style={{ padding: 16, color: t.pencil, maxWidth: 720 }}>
            {say(posted.length ? 'outbox.noneFound' : 'outbox.empty')}
          </Text>
        )
      }
      render={(i) => {
        const row = rows[i]!;
        return (
          <View style={{ paddingHorizontal: 16, paddingTop: 10, maxWidth: 752 }}>
            {row.kind === 'head' ? (
              <Heading level={2} variant="titleSmall" style={{ color: t.pencil }}>
                {say(row.title)}
              </Heading>
            ) : row.delivery ? (
              <DeliveryLeaf delivery={row.delivery} />
            ) : (
              <View style={{ height: 90 }} />
            )}
          </View>
        );
      }}
    />
  );
}

const DeliveryLeaf = memo(function DeliveryLeaf({ delivery: d }: { delivery: Delivery }) {
  const t = useTokens();
  const say = useSay();
  const router = useRouter();
  const dispatch = useAppDispatch();
  const share = useApp((s) => s.session.sent[d.id] ?? 0);
  const failed = needsAttention(d);
  const inFolder = d.folder ?? (d.place.kind !== 'mail' && d.place.about !== 'folder' ? d.place.about : '');
  const addresses = [...(d.to ?? []), ...(d.cc ?? [])].join(', ');
  const to = inFolder
    ? say('outbox.toFolder', { place: d.place.name, folder: inFolder })
    : addresses
      ? say('outbox.toAddresses', { place: d.place.name, addresses })
      : say('outbox.to', { place: d.place.name });
  const again =
    d.state === 'waiting'
      ? 'outbox.tryNow'
      : d.state === 'paused'
        ? 'outbox.goOn'
        : !failed
          ? null
          : d.state === 'doubt'
            ? 'outbox.sendAgain'
            : 'outbox.tryAgain';
  const cancel = async () => {
    if (!(await dispatch(cancelSending(d)))) dispatch(noticed({ code: 'notice.tooLateToCancel', values: { name: d.fileName } }));
  };
  return (
    <View
      testID={`delivery-${d.state}`}
      style={{
        backgroundColor: failed ? t.rustWash : t.leaf,
        borderWidth: failed ? 0 : 1,
        borderLeftWidth: failed ? 4 : 1,
        borderColor: failed ? t.rust : t.hairline,
        borderRadius: failed ? 0 : corner,
        padding: 14,
        flexDirection: 'row',
        gap: 12,
      }}
    >
      {d.state === 'arrived' ? <Sign source="check-decagram-outline" size={26} color={t.moss} /> : null}
      <View style={{ flex: 1, gap: 3 }}>
        <Link href={`/document/${d.documentId}`} style={{ textDecorationLine: 'none' }}>
          <Text variant="titleMedium">{d.fileName}</Text>
        </Link>
        {d.proof ? (
          <>
            <Text variant="bodySmall" style={{ color: t.pencil }}>
              {say('outbox.proof', {
                where: d.proof.where,
                when: whenInWords(say, d.proof.at, new Date()),
                size: fileSize(d.proof.bytes),
              })}
            </Text>
            <Text variant="bodySmall" style={{ color: t.moss }}>
              {d.proof.how === 'read-back'
                ? say('outbox.verified', { hash: shortHash(d.proof.sha256) })
                : d.proof.how === 'said'
                  ? say('outbox.said')
                  : say('outbox.accepted', { receipt: d.proof.receipt })}
            </Text>
          </>
        ) : (
          <Text variant="bodySmall" style={{ color: failed ? t.ink : t.pencil }}>
            {d.reason
              ? say('outbox.toReason', {
                  to,
                  reason: d.reason.said ? problemAlone(say, d.reason) : problemInWords(say, d.reason),
                })
              : d.state === 'waiting'
                ? say('outbox.toTurn', { to })
                : d.state === 'carrying'
                  ? say('outbox.toCarrying', { to })
                  : to}
          </Text>
        )}
        {d.byFolder ? (
          <Text variant="bodySmall" style={{ color: t.pencil }}>
            {say('outbox.byFolder', { name: d.byFolder })}
          </Text>
        ) : d.bySlip ? (
          <Text variant="bodySmall" style={{ color: t.pencil }}>
            {say('outbox.bySlip')}
          </Text>
        ) : null}
        {d.state === 'doubt' ? <Text variant="bodySmall">{say('outbox.doubt')}</Text> : null}
        {d.heard && d.heard.length > 1 && !d.proof
          ? d.heard.map((h) => (
              <Text key={h.address} variant="bodySmall" style={{ color: h.state === 'accepted' ? t.moss : t.pencil }}>
                {say(`outbox.heard.${h.state}`, { address: h.address })}
              </Text>
            ))
          : null}
        {d.state === 'sending' ? (
          <View role="status" style={{ gap: 4, paddingTop: 6 }}>
            <Progress value={share} label={say('outbox.progress')} />
            <Text variant="bodySmall" style={{ color: t.pencil }}>
              {share < 1
                ? say('outbox.sent', { done: fileSize(Math.round(share * d.bytes)), total: fileSize(d.bytes) })
                : say('outbox.allSent')}
            </Text>
          </View>
        ) : null}
        {d.state === 'waiting' && d.reason ? (
          <Text variant="bodySmall" style={{ color: t.pencil }}>
            {say('outbox.byItself', { count: d.attempts })}
          </Text>
        ) : d.state === 'carrying' && d.nextAt ? (
          <Text variant="bodySmall" style={{ color: t.pencil }}>
            {say('outbox.nextAt', { when: whenInWords(say, d.nextAt, new Date()) })}
          </Text>
        ) : null}
        {d.state !== 'arrived' ? (
          <View style={{ flexDirection: 'row', flexWrap: 'wrap', marginLeft: -8 }}>
            {d.state === 'doubt' ? (
              <Button mode="text" onPress={() => void dispatch(saidToHaveArrived(d))}>
                {say('outbox.hasArrived')}
              </Button>
            ) : null}
            {again ? (
              <Button mode="text" onPress={() => void dispatch(tryAgain(d))}>
                {say(again)}
              </Button>
            ) : null}
            {d.state === 'waiting' || d.state === 'sending' ? (
              <Button mode="text" onPress={() => void dispatch(pauseSending(d))}>
                {say('outbox.pause')}
              </Button>
            ) : null}
            {isOpenDelivery(d) ? (
              <Button mode="text" onPress={() => void cancel()}>
                {say('outbox.cancelSending')}
              </Button>
            ) : d.state === 'failed' ? (
              <Button mode="text" onPress={() => router.push(`/document/${d.documentId}?send=1`)}>
                {say('outbox.another')}
              </Button>
            ) : null}
          </View>
        ) : null}
      </View>
    </View>
  );
});

const shortHash = (hash: string) => `${hash.slice(0, 4)} ${hash.slice(4, 8)} … ${hash.slice(-4)}`;
