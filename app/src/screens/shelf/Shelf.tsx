import { Link } from 'expo-router';
import { useState } from 'react';
import { ScrollView, View } from 'react-native';
import { Button, Searchbar, Text } from 'react-native-paper';
import { Action } from '../../components/Action';
import { Banner } from '../../components/Banner';
import { Stitches } from '../../components/Stitches';
import { bringInDemo } from '../../state/demo';
import { asideRead } from '../../state/library';
import { useApp, useAppDispatch } from '../../state/store';
import { useTokens } from '../../theme/theme';
import { corner, fonts } from '../../theme/tokens';
import { DocumentRow } from './DocumentRow';
import { dayInWords, hasDoubt, pagesInWords } from './words';

/** All documents by day, with what needs the user on top. */
export function Shelf({ selected }: { selected?: string }) {
  const t = useTokens();
  const dispatch = useAppDispatch();
  const [query, setQuery] = useState('');
  const [bringing, setBringing] = useState(false);
  const library = useApp((s) => s.library);
  const importing = useApp((s) => s.work.import);
  const all = Object.values(library.document).filter((d) => !d.deletedAt);
  const words = query.toLowerCase().split(/\s+/).filter(Boolean);
  const documents = all
    .filter((d) => words.every((w) => d.name.toLowerCase().includes(w)))
    .sort((a, b) => b.createdAt.localeCompare(a.createdAt));
  const doubtful = all.flatMap((d) => (d.pageIds.some((id) => library.page[id] && hasDoubt(library.page[id])) ? [d] : []));
  const doubts = doubtful.reduce(
    (n, d) => n + d.pageIds.filter((id) => library.page[id] && hasDoubt(library.page[id])).length,
    0,
  );
  const failed = Object.values(library.delivery).filter((d) => d.state === 'failed');
  const now = new Date();
  const days = [...new Set(documents.map((d) => dayInWords(d.createdAt, now)))];
  const demoMissing = !all.some((d) => d.demo && d.name.startsWith('Engine handbook'));

  const demo = async () => {
    setBringing(true);
    await dispatch(bringInDemo(false)).catch(() => {});
    setBringing(false);
  };

  return (
    <ScrollView style={{ flex: 1 }} contentContainerStyle={{ paddingBottom: 24 }}>
      <View style={{ padding: 16, gap: 14 }}>
        <View style={{ flexDirection: 'row', alignItems: 'baseline', justifyContent: 'space-between' }}>
          <Text role="heading" style={{ fontFamily: fonts.heading, fontSize: 26, color: t.wine }}>
            Libretto
          </Text>
          <Text variant="bodySmall" style={{ color: t.pencil }}>
            {all.length ? `${all.length} ${all.length === 1 ? 'document' : 'documents'}` : ''}
          </Text>
        </View>
        <Searchbar
          value={query}
          onChangeText={setQuery}
          placeholder="Names of documents"
          style={{ borderRadius: corner, backgroundColor: t.leaf, borderWidth: 1, borderColor: t.hairline }}
          inputStyle={{ minHeight: 44 }}
        />
      </View>
      {doubts ? (
        <Banner
          tone="attention"
          icon="eye-outline"
          title={doubts === 1 ? 'One page needs you' : `${doubts} pages need you`}
          detail={doubtful.map((d) => d.name).join(', ')}
        >
          <Link href={`/document/${doubtful[0]!.id}`} asChild>
            <Button mode="text">Look</Button>
          </Link>
        </Banner>
      ) : null}
      {failed.length ? (
        <Banner
          tone="failed"
          icon="alert-circle-outline"
          title={failed.length === 1 ? 'One delivery did not arrive' : `${failed.length} deliveries did not arrive`}
          detail={failed.map((d) => `${d.fileName} to ${d.place.name}`).join(', ')}
        >
          <Link href="/outbox" asChild>
            <Button mode="text" textColor={t.rust}>
              Outbox
            </Button>
          </Link>
        </Banner>
      ) : null}
      {library.aside.length ? (
        <Banner
          tone="attention"
          icon="tray-alert"
          title={`${library.aside.length === 1 ? 'A record' : `${library.aside.length} records`} could not be read`}
          detail="Kept aside unchanged; everything else is here."
        >
          <Button mode="text" onPress={() => dispatch(asideRead())}>
            Good
          </Button>
        </Banner>
      ) : null}
      {days.map((day) => (
        <View key={day}>
          <Text
            variant="titleSmall"
            role="heading"
            aria-level={2}
            style={{ color: t.pencil, paddingHorizontal: 16, paddingTop: 18, paddingBottom: 2 }}
          >
            {day}
          </Text>
          {documents
            .filter((d) => dayInWords(d.createdAt, now) === day)
            .map((d) => (
              <DocumentRow key={d.id} document={d} selected={d.id === selected} />
            ))}
        </View>
      ))}
      {!all.length && !importing ? <FirstRun /> : null}
      {all.length && !documents.length ? (
        <Text style={{ padding: 16, color: t.pencil }}>No document is named like “{query}”.</Text>
      ) : null}
      {demoMissing && !query ? (
        <View style={{ padding: 16, paddingTop: 24, gap: 12 }}>
          <Stitches />
          <Text variant="bodySmall" style={{ color: t.pencil }}>
            The office of an invented boatyard comes with Libretto to try things on.
          </Text>
          <Action
            icon="image-multiple-outline"
            onPress={demo}
            loading={bringing}
            disabled={bringing}
            style={{ alignSelf: 'flex-start' }}
          >
            Bring in the demo’s other photographs
          </Action>
        </View>
      ) : null}
      {importing ? (
        <Text role="status" variant="bodySmall" style={{ padding: 16, color: t.pencil }}>
          Bringing in {importing.done} of {pagesInWords(importing.total)}
        </Text>
      ) : null}
    </ScrollView>
  );
}

function FirstRun() {
  const t = useTokens();
  const lines: [string, string][] = [
    ['Lay the page on something darker, and leave some of it visible all round.', 'texture-box'],
    ['Light from the side, so that the phone throws no shadow on it.', 'lamp-outline'],
    ['Hold still, from above. A little keystone is fine: it is straightened.', 'cellphone-screenshot'],
  ];
  return (
    <View style={{ padding: 16, gap: 14 }}>
      <Text variant="titleMedium">Nothing on the shelf yet</Text>
      <Stitches />
      {lines.map(([line]) => (
        <Text key={line}>{line}</Text>
      ))}
      <Link href="/capture" asChild>
        <Action main style={{ alignSelf: 'flex-start' }}>
          Bring in photographs
        </Action>
      </Link>
      <Text variant="bodySmall" style={{ color: t.pencil }}>
        Everything stays in this browser until you send it.
      </Text>
    </View>
  );
}
