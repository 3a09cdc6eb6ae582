import { useRouter } from 'expo-router';
import { useState } from 'react';
import { ScrollView, View } from 'react-native';
import { Button, IconButton, ProgressBar, Text } from 'react-native-paper';
import { Action } from '../../components/Action';
import { Banner } from '../../components/Banner';
import { useKeys } from '../../components/useKeys';
import { pagesOf, turnPages } from '../../state/editing';
import { redone, undone } from '../../state/library';
import { useApp, useAppDispatch } from '../../state/store';
import { useTokens } from '../../theme/theme';
import { DropArea } from '../capture/DropArea';
import { useBringIn } from '../capture/useBringIn';
import { SendSheet } from '../send/SendSheet';
import { hasDoubt, pagesInWords, sizesInWords } from '../shelf/words';
import { NameLine } from './NameLine';
import { PageGrid } from './PageGrid';

export interface ProofSheetProps {
  id: string;
  /** The page that stands open beside it, at wide size. */
  selected?: string;
  sending: boolean;
  back: boolean;
}

/** A document's pages in order with their checks: here the batch is looked over, put into order, named and sent. */
export function ProofSheet({ id, selected, sending, back }: ProofSheetProps) {
  const t = useTokens();
  const router = useRouter();
  const dispatch = useAppDispatch();
  const [width, setWidth] = useState(0);
  const document = useApp((s) => s.library.document[id]);
  const state = useApp((s) => s);
  const pages = pagesOf(state, document);
  const { add, cancel } = useBringIn(id);
  const canUndo = state.library.past.some((c) => c.documentId === id);
  const canRedo = state.library.future.some((c) => c.documentId === id);
  const doubtful = pages.filter(hasDoubt);
  const open = (pageId: string) => router.push(`/document/${id}/page/${pageId}`);
  const stepThrough = () => {
    const next = doubtful.find((p) => pages.indexOf(p) > pages.findIndex((q) => q.id === selected)) ?? doubtful[0];
    if (next) open(next.id);
  };
  const showSend = (on: boolean) => router.setParams({ send: on ? '1' : '' });
  useKeys({
    'mod+z': () => dispatch(undone(id)),
    'mod+y': () => dispatch(redone(id)),
    'mod+shift+z': () => dispatch(redone(id)),
    s: () => pages.length && showSend(true),
    r: () => !selected && dispatch(turnPages(pages)),
  });

  if (!document || document.deletedAt)
    return (
      <View style={{ padding: 16, gap: 12 }}>
        <Text variant="titleMedium">{document ? 'This document is in the bin' : 'There is no such document'}</Text>
        {document ? (
          <Action onPress={() => dispatch(undone(id))} disabled={!canUndo}>
            Bring it back
          </Action>
        ) : null}
        <Action onPress={() => router.replace('/')}>To the shelf</Action>
      </View>
    );

  const importing = state.work.import?.documentId === id ? state.work.import : null;
  const looking = pages.filter((p) => p.state === 'looking').length;
  return (
    <DropArea onFiles={add}>
      {(choose) => (
        <View style={{ flex: 1 }}>
          <View style={{ flexDirection: 'row', alignItems: 'center', paddingHorizontal: 4, minHeight: 52 }}>
            {back ? (
              <IconButton
                style={{ margin: 0 }}
                icon="arrow-left"
                accessibilityLabel="To the shelf"
                onPress={() => router.navigate('/')}
              />
            ) : null}
            <View style={{ flex: 1 }} />
            <IconButton style={{ margin: 0 }} icon="image-plus" accessibilityLabel="Add from files" onPress={choose} />
            <IconButton
              style={{ margin: 0 }}
              icon="undo"
              accessibilityLabel="Undo"
              disabled={!canUndo}
              onPress={() => dispatch(undone(id))}
            />
            <IconButton
              style={{ margin: 0 }}
              icon="redo"
              accessibilityLabel="Redo"
              disabled={!canRedo}
              onPress={() => dispatch(redone(id))}
            />
          </View>
          <ScrollView style={{ flex: 1 }} onLayout={(event) => setWidth(event.nativeEvent.layout.width - 16)}>
            <View style={{ paddingHorizontal: 16, gap: 2 }}>
              <NameLine document={document} />
              <Text variant="bodySmall" style={{ color: t.pencil }}>
                {[pagesInWords(pages.length), sizesInWords(pages)].filter(Boolean).join(' · ')}
              </Text>
            </View>
            <View style={{ padding: 16, gap: 8 }}>
              {doubtful.length ? (
                <Banner
                  tone="attention"
                  title={`${doubtful.length} of ${pages.length} ${doubtful.length === 1 ? 'needs' : 'need'} a look`}
                >
                  <Button mode="text" onPress={stepThrough}>
                    Step through
                  </Button>
                </Banner>
              ) : null}
              {importing || looking ? (
                <View role="status" style={{ gap: 6 }}>
                  <ProgressBar
                    progress={importing ? importing.done / Math.max(1, importing.total) : (pages.length - looking) / pages.length}
                  />
                  <View style={{ flexDirection: 'row', alignItems: 'center', justifyContent: 'space-between' }}>
                    <Text variant="bodySmall" style={{ color: t.pencil }}>
                      {importing
                        ? `Bringing in: ${importing.done} of ${importing.total} safe`
                        : `Finding edges: ${pages.length - looking} of ${pages.length}`}
                    </Text>
                    {importing ? (
                      <Button mode="text" compact onPress={cancel}>
                        Stop
                      </Button>
                    ) : null}
                  </View>
                </View>
              ) : null}
            </View>
            <View style={{ paddingHorizontal: 8, paddingBottom: 16 }}>
              {pages.length && width > 0 ? (
                <PageGrid
                  document={document}
                  pages={pages}
                  width={width}
                  {...(selected && { selected })}
                  onOpen={(page) => open(page.id)}
                />
              ) : (
                <Text style={{ padding: 8, color: t.pencil }}>No page in it. Add photographs, or undo what took them out.</Text>
              )}
            </View>
          </ScrollView>
          <View
            style={{
              flexDirection: 'row',
              gap: 10,
              padding: 12,
              borderTopWidth: 1,
              borderColor: t.hairline,
              backgroundColor: t.leaf,
            }}
          >
            <Action tall icon="camera-plus-outline" onPress={() => router.push(`/capture?into=${id}`)} style={{ flex: 4 }}>
              Add pages
            </Action>
            <Action
              tall
              main
              icon="send"
              disabled={!pages.some((p) => p.state === 'ready')}
              onPress={() => showSend(true)}
              style={{ flex: 5 }}
            >
              Send
            </Action>
          </View>
          {sending ? <SendSheet document={document} pages={pages} onClose={() => showSend(false)} /> : null}
        </View>
      )}
    </DropArea>
  );
}
