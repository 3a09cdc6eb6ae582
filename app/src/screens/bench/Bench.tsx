import { useRouter } from 'expo-router';
import { useState } from 'react';
import { ScrollView, useWindowDimensions, View } from 'react-native';
import { ActivityIndicator, IconButton, Text, TouchableRipple } from 'react-native-paper';
import { remedyOf, type Adjust, type Check, type Document, type Outline, type Page, type Photo } from '@libretto/model';
import { Action } from '../../components/Action';
import { MoreMenu } from '../../components/MoreMenu';
import { useKeys } from '../../components/useKeys';
import { usePhotoUrl } from '../../components/usePageImage';
import {
  approveOutline,
  deletePages,
  finishAll,
  pagesOf,
  setFinish,
  setOutline,
  settleCheck,
  turnPages,
} from '../../state/editing';
import { redone, undone } from '../../state/library';
import { findHere, inspectAgain } from '../../state/looking';
import { useApp, useAppDispatch } from '../../state/store';
import { useTokens } from '../../theme/theme';
import { corner } from '../../theme/tokens';
import { CheckRow } from './CheckRow';
import { EdgesDrawer } from './EdgesDrawer';
import { EdgesStage } from './EdgesStage';
import { detailSize, FinishDrawer } from './FinishDrawer';
import { FinishStage } from './FinishStage';
import { isCurved, polygonFor, type Quad } from './quad';
import { useDetails } from './useDetails';

export type Drawer = 'edges' | 'finish';
const drawers: { id: Drawer; label: string }[] = [
  { id: 'edges', label: 'Edges' },
  { id: 'finish', label: 'Finish' },
];

/** One page on the bench: large, with its drawers. */
export function Bench({
  documentId,
  pageId,
  drawer,
  back,
}: {
  documentId: string;
  pageId: string;
  drawer: Drawer;
  back: boolean;
}) {
  const router = useRouter();
  const dispatch = useAppDispatch();
  const state = useApp((s) => s);
  const t = useTokens();
  const document = state.library.document[documentId];
  const pages = pagesOf(state, document);
  const at = pages.findIndex((p) => p.id === pageId);
  const page = pages[at];
  const photo = page && state.library.photo[page.photoId];
  const canUndo = state.library.past.some((c) => c.documentId === documentId);
  const canRedo = state.library.future.some((c) => c.documentId === documentId);
  const toSheet = () => router.navigate(`/document/${documentId}`);
  const show = (next: Drawer) => router.setParams({ drawer: next });
  const go = (to: number) => pages[to] && router.replace(`/document/${documentId}/page/${pages[to].id}?drawer=${drawer}`);
  const remove = () => {
    if (!document || !page) return;
    const next = pages[at + 1] ?? pages[at - 1];
    dispatch(deletePages(document, [page]));
    if (next) router.replace(`/document/${documentId}/page/${next.id}?drawer=${drawer}`);
    else toSheet();
  };
  useKeys({
    j: () => go(at + 1),
    k: () => go(at - 1),
    e: () => show('edges'),
    f: () => show('finish'),
    r: () => page && dispatch(turnPages([page])),
    escape: toSheet,
    delete: remove,
    ...(back && {
      'mod+z': () => dispatch(undone(documentId)),
      'mod+y': () => dispatch(redone(documentId)),
      'mod+shift+z': () => dispatch(redone(documentId)),
    }),
  });

  return (
    <View style={{ flex: 1, backgroundColor: t.paper }}>
      <View style={{ flexDirection: 'row', alignItems: 'center', paddingHorizontal: 4, minHeight: 52 }}>
        {back ? (
          <IconButton style={{ margin: 0 }} icon="arrow-left" accessibilityLabel="To the proof sheet" onPress={toSheet} />
        ) : (
          <View style={{ width: 12 }} />
        )}
        <Text variant="titleMedium" role="heading" numberOfLines={1} style={{ flex: 1 }}>
          {page ? `Page ${at + 1} of ${pages.length}` : 'Page'}
        </Text>
        <IconButton
          style={{ margin: 0 }}
          icon="chevron-left"
          accessibilityLabel="Page before"
          disabled={at <= 0}
          onPress={() => go(at - 1)}
        />
        <IconButton
          style={{ margin: 0 }}
          icon="chevron-right"
          accessibilityLabel="Next page"
          disabled={at < 0 || at >= pages.length - 1}
          onPress={() => go(at + 1)}
        />
        <IconButton
          style={{ margin: 0 }}
          icon="undo"
          accessibilityLabel="Undo"
          disabled={!canUndo}
          onPress={() => dispatch(undone(documentId))}
        />
        {back ? (
          <IconButton
            style={{ margin: 0 }}
            icon="redo"
            accessibilityLabel="Redo"
            disabled={!canRedo}
            onPress={() => dispatch(redone(documentId))}
          />
        ) : null}
        <MoreMenu
          label="More"
          entries={[
            { icon: 'rotate-right', title: 'Turn', disabled: !page, onPress: () => page && dispatch(turnPages([page])) },
            { icon: 'delete-outline', title: 'Delete page', disabled: !page, onPress: remove },
          ]}
        />
      </View>
      {!page || !photo ? (
        <View style={{ padding: 16, gap: 12 }}>
          <Text>This page is no longer in the document.</Text>
          <Action onPress={toSheet}>To the proof sheet</Action>
        </View>
      ) : page.state !== 'ready' || !page.recipe || !photo.width || !photo.height ? (
        <View style={{ flex: 1, alignItems: 'center', justifyContent: 'center', gap: 12, padding: 24 }}>
          {page.state === 'failed' ? (
            <Text style={{ color: t.rust }}>{`${photo.name}: ${page.problem}`}</Text>
          ) : (
            <ActivityIndicator />
          )}
          <Text style={{ color: t.pencil }}>
            {page.state === 'failed' ? 'Delete it, or bring the picture in again.' : 'Finding the edges'}
          </Text>
        </View>
      ) : (
        <Drawers
          key={page.id}
          page={page}
          photo={photo as Photo & { width: number; height: number }}
          document={document!}
          pages={pages}
          drawer={drawer}
          onRemedy={(check) => {
            const { remedy } = remedyOf(check);
            if (remedy === 'edges') show('edges');
            else if (remedy === 'retake') router.navigate(`/capture?into=${documentId}&again=${page.id}`);
            else if (remedy === 'turn') dispatch(turnPages([page]));
            else remove();
          }}
          onShow={show}
          onGood={() => (at < pages.length - 1 && !back ? go(at + 1) : toSheet())}
        />
      )}
    </View>
  );
}

interface DrawersProps {
  page: Page;
  photo: Photo & { width: number; height: number };
  document: Document;
  pages: readonly Page[];
  drawer: Drawer;
  onRemedy: (check: Check) => void;
  onShow: (drawer: Drawer) => void;
  onGood: () => void;
}

function Drawers({ page, photo, document, pages, drawer, onRemedy, onShow, onGood }: DrawersProps) {
  const t = useTokens();
  const dispatch = useAppDispatch();
  const window = useWindowDimensions();
  const url = usePhotoUrl(page.photoId);
  const outline = page.recipe!.outline;
  const [draft, setDraft] = useState<{ from: Outline; next: Outline } | null>(null);
  const [picking, setPicking] = useState(false);
  const [toBend, setToBend] = useState(false);
  const router = useRouter();
  const [spot, setSpot] = useState<[number, number] | null>(null);
  const [width, setWidth] = useState(390);
  const details = useDetails(page, spot, detailSize);
  const asOutline = (next: Quad): Outline => {
    const polygon = polygonFor(outline, next);
    return { v: 1, quad: next, ...(polygon && { polygon }), confidence: 1, source: 'hand' };
  };
  const shown = draft && draft.from === outline ? draft.next : outline;
  const draw = (next: Outline) => setDraft({ from: outline, next });
  const bending = toBend || isCurved(shown);
  const siblings = pages.filter((p) => p.photoId === page.photoId && p.recipe);
  const pick = async (at: readonly [number, number]) => {
    setPicking(false);
    const found = await dispatch(findHere(page, at));
    if (found) setEdges(found);
  };
  const setEdges = (next: Outline) => {
    dispatch(setOutline(page, next));
    void dispatch(inspectAgain({ ...page, recipe: { ...page.recipe!, outline: next } }));
  };
  const check = page.checks[0];
  const { filter, adjust } = page.recipe!;
  const finish = { filter, ...(adjust && { adjust }) };
  const [turned, setTurned] = useState<{ adjust: Adjust | undefined } | null>(null);
  const others = pages.filter(
    (p) => p.recipe && (p.recipe.filter !== filter || JSON.stringify(p.recipe.adjust) !== JSON.stringify(adjust)),
  );
  const other = check?.pageId ? pages.findIndex((p) => p.id === check.pageId) + 1 || null : null;
  const good = () => {
    if (drawer === 'edges' && (check?.id === 'unsure-outline' || check?.id === 'no-page')) dispatch(approveOutline(page));
    onGood();
  };
  return (
    <View style={{ flex: 1 }} onLayout={(event) => setWidth(event.nativeEvent.layout.width)}>
      {drawer === 'edges' ? (
        url ? (
          <EdgesStage
            photo={photo}
            url={url}
            quad={shown.quad}
            polygon={shown.polygon ?? null}
            onDraft={(next) => draw(asOutline(next))}
            bending={bending}
            onBend={(polygon, done) => {
              const next: Outline = { v: 1, quad: shown.quad, polygon, confidence: 1, source: 'hand' };
              draw(next);
              if (done) setEdges(next);
            }}
            seen={siblings.flatMap((p) => (p.found?.source === 'found' ? [p.found.quad] : []))}
            others={siblings
              .filter((p) => p.id !== page.id)
              .map((p) => ({
                folio: pages.indexOf(p) + 1,
                quad: p.recipe!.outline.quad,
                onOpen: () => router.replace(`/document/${document.id}/page/${p.id}?drawer=edges`),
              }))}
            onPick={picking ? (at) => void pick(at) : null}
            onDone={(next) => setEdges(asOutline(next))}
          />
        ) : (
          <View style={{ flex: 1 }} />
        )
      ) : (
        <FinishStage page={page} draft={turned} at={spot ?? details.at} onPick={setSpot} />
      )}
      {check ? (
        <CheckRow
          check={check}
          other={other}
          more={page.checks.length - 1}
          onRemedy={() => onRemedy(check)}
          onSettle={() =>
            dispatch(check.id === 'unsure-outline' || check.id === 'no-page' ? approveOutline(page) : settleCheck(page, check))
          }
        />
      ) : null}
      <View
        role="tablist"
        style={{ flexDirection: 'row', gap: 4, paddingHorizontal: 12, paddingTop: 8, backgroundColor: t.well }}
      >
        {drawers.map(({ id, label }) => (
          <TouchableRipple
            key={id}
            role="tab"
            aria-selected={drawer === id}
            onPress={() => onShow(id)}
            style={{
              flex: 1,
              minHeight: 44,
              alignItems: 'center',
              justifyContent: 'center',
              borderTopLeftRadius: corner,
              borderTopRightRadius: corner,
              borderWidth: 1,
              borderBottomWidth: 0,
              borderColor: t.hairline,
              backgroundColor: drawer === id ? t.leaf : 'transparent',
            }}
          >
            <Text variant={drawer === id ? 'labelMedium' : 'bodyMedium'} style={{ color: drawer === id ? t.wine : t.pencil }}>
              {label}
            </Text>
          </TouchableRipple>
        ))}
      </View>
      <ScrollView style={{ flexGrow: 0, maxHeight: Math.max(220, window.height * 0.4), backgroundColor: t.leaf }}>
        {drawer === 'edges' ? (
          <EdgesDrawer
            page={page}
            photo={photo}
            document={document}
            pages={pages}
            draft={shown}
            picking={picking}
            onPicking={setPicking}
            bending={bending}
            onBending={() => setToBend(true)}
            onDraft={(next) => draw(asOutline(next))}
            onEdges={setEdges}
          />
        ) : (
          <FinishDrawer
            page={page}
            details={details}
            width={width}
            adjusting={{
              adjust: turned ? turned.adjust : adjust,
              onMove: (next) => setTurned({ adjust: next }),
              onSet: (next) => {
                setTurned(null);
                dispatch(setFinish([page], { filter, ...(next && { adjust: next }) }));
              },
            }}
          />
        )}
      </ScrollView>
      <View
        style={{
          flexDirection: 'row',
          alignItems: 'center',
          gap: 10,
          padding: 12,
          borderTopWidth: 1,
          borderColor: t.hairline,
          backgroundColor: t.leaf,
        }}
      >
        {drawer === 'edges' ? (
          <Text variant="bodySmall" style={{ flex: 1, color: t.pencil }}>
            {outline.source === 'hand' ? 'Edges set by you' : outline.source === 'whole' ? 'The whole photo' : 'Edges found'}
          </Text>
        ) : (
          <Action tall disabled={!others.length} onPress={() => dispatch(finishAll(document, pages, finish))} style={{ flex: 1 }}>
            {pages.length > 1 ? `Use for all ${pages.length} pages` : 'The only page'}
          </Action>
        )}
        <Action tall main onPress={good} style={{ minWidth: 110 }}>
          Good
        </Action>
      </View>
    </View>
  );
}
