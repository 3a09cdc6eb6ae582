import { useRouter } from 'expo-router';
import { View } from 'react-native';
import { ActivityIndicator, IconButton, Text } from 'react-native-paper';
import { betterOf, remedyOf, type Photo } from '@libretto/model';
import { Action } from '../../components/Action';
import { MoreMenu } from '../../components/MoreMenu';
import { useKeys } from '../../components/useKeys';
import { deletePages, pagesOf, takeTwinOut, turnAsSaid, turnPages } from '../../state/editing';
import { redone, undone } from '../../state/library';
import { useApp, useAppDispatch } from '../../state/store';
import { useTokens } from '../../theme/theme';
import { Drawers, type Drawer } from './Drawers';

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
            else if (remedy === 'turn') dispatch(turnAsSaid(page, check));
            else {
              const twin = betterOf(check) === 'this' ? pages.find((p) => p.id === check.pageId) : undefined;
              if (twin) dispatch(takeTwinOut(document!, page, check, twin));
              else remove();
            }
          }}
          onShow={show}
          onGood={() => (at < pages.length - 1 && !back ? go(at + 1) : toSheet())}
        />
      )}
    </View>
  );
}
