import { format } from 'date-fns/format';
import { isSameDay } from 'date-fns/isSameDay';
import { useRouter } from 'expo-router';
import { ScrollView, View } from 'react-native';
import { Button, Icon, ProgressBar, Text } from 'react-native-paper';
import { bytesInWords, type Delivery } from '@libretto/model';
import { giveUp, tryAgain } from '../../state/outbox';
import { useApp, useAppDispatch } from '../../state/store';
import { useTokens } from '../../theme/theme';
import { corner } from '../../theme/tokens';

/** Every delivery: under way, needing the user, arrived with its proof. */
export function Outbox() {
  const t = useTokens();
  const deliveries = useApp((s) => s.library.delivery);
  const all = Object.values(deliveries).sort((a, b) => b.createdAt.localeCompare(a.createdAt));
  const groups: [string, Delivery[]][] = [
    ['Needs you', all.filter((d) => d.state === 'failed')],
    ['Under way', all.filter((d) => d.state === 'sending' || d.state === 'waiting')],
    ['Arrived', all.filter((d) => d.state === 'arrived')],
  ];
  return (
    <ScrollView style={{ flex: 1 }} contentContainerStyle={{ padding: 16, gap: 10, maxWidth: 720 }}>
      <Text variant="headlineLarge" role="heading">
        Outbox
      </Text>
      {groups.map(([title, list]) =>
        list.length ? (
          <View key={title} style={{ gap: 8, paddingTop: 6 }}>
            <Text variant="titleSmall" role="heading" aria-level={2} style={{ color: t.pencil }}>
              {title}
            </Text>
            {list.map((d) => (
              <DeliveryLeaf key={d.id} delivery={d} />
            ))}
          </View>
        ) : null,
      )}
      {!all.length ? (
        <Text style={{ color: t.pencil }}>
          Nothing has been sent yet. Open a document and press Send; what becomes of it is told here, with proof when it has
          arrived.
        </Text>
      ) : null}
    </ScrollView>
  );
}

function DeliveryLeaf({ delivery: d }: { delivery: Delivery }) {
  const t = useTokens();
  const router = useRouter();
  const dispatch = useAppDispatch();
  const share = useApp((s) => s.work.sent[d.id] ?? 0);
  const failed = d.state === 'failed';
  const to = `to ${d.place.name}${d.place.kind === 'folder' && d.place.about !== 'folder' ? ` / ${d.place.about}` : ''}`;
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
      {d.state === 'arrived' ? <Icon source="check-decagram-outline" size={26} color={t.moss} /> : null}
      <View style={{ flex: 1, gap: 3 }}>
        <Text variant="titleMedium" onPress={() => router.push(`/document/${d.documentId}`)}>
          {d.fileName}
        </Text>
        {d.proof ? (
          <>
            <Text variant="bodySmall" style={{ color: t.pencil }}>
              {d.proof.where} · {whenInWords(d.proof.at)} · {bytesInWords(d.proof.bytes)}
            </Text>
            <Text variant="bodySmall" style={{ color: t.moss }}>
              {d.proof.how === 'read-back'
                ? `Read back and compared: ${shortHash(d.proof.sha256)}, the same`
                : `Taken over by the mail server: ${d.proof.receipt}`}
            </Text>
          </>
        ) : (
          <Text variant="bodySmall" style={{ color: failed ? t.ink : t.pencil }}>
            {to}
            {d.reason ? `: ${d.reason}` : d.state === 'waiting' ? ' · waits its turn' : ''}
          </Text>
        )}
        {d.state === 'sending' ? (
          <View role="status" style={{ gap: 4, paddingTop: 6 }}>
            <ProgressBar progress={share} />
            <Text variant="bodySmall" style={{ color: t.pencil }}>
              {share < 1
                ? `${bytesInWords(Math.round(share * d.bytes))} of ${bytesInWords(d.bytes)}`
                : 'All sent; waiting for the proof'}
            </Text>
          </View>
        ) : null}
        {d.state === 'waiting' && d.reason ? (
          <Text variant="bodySmall" style={{ color: t.pencil }}>
            It goes by itself as soon as it can. Tried {d.attempts} {d.attempts === 1 ? 'time' : 'times'}.
          </Text>
        ) : null}
        {d.state !== 'arrived' ? (
          <View style={{ flexDirection: 'row', marginLeft: -8 }}>
            {d.state !== 'sending' && d.reason !== 'Taken back by you' ? (
              <Button mode="text" compact onPress={() => void dispatch(tryAgain(d.id))}>
                {failed ? 'Try again' : 'Try now'}
              </Button>
            ) : null}
            {!failed ? (
              <Button mode="text" compact onPress={() => void dispatch(giveUp(d.id))}>
                Take back
              </Button>
            ) : (
              <Button mode="text" compact onPress={() => router.push(`/document/${d.documentId}?send=1`)}>
                Send another way
              </Button>
            )}
          </View>
        ) : null}
      </View>
    </View>
  );
}

const shortHash = (hash: string) => `${hash.slice(0, 4)} ${hash.slice(4, 8)} … ${hash.slice(-4)}`;

function whenInWords(iso: string): string {
  const at = new Date(iso);
  return isSameDay(at, new Date()) ? `today ${format(at, 'HH:mm')}` : format(at, 'd MMM yyyy HH:mm');
}
