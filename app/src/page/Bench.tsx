import { useRouter } from 'expo-router';
import { View } from 'react-native';
import { Text } from 'react-native-paper';
import { betterOf, remedyOf, type Photo } from '@libretto/model';
import { redoLast, undoLast } from '../store/change';
import { deletePages, takeTwinOut, turnAsSaid, turnPages } from '../store/editing';
import { useAppDispatch } from '../store/store';
import { useDocument, usePhoto, useTurns } from '../store/useDocument';
import { Action } from '../ui/Action';
import { Heading } from '../ui/Heading';
import { IconAction } from '../ui/IconAction';
import { MoreMenu } from '../ui/MoreMenu';
import { Spinner } from '../ui/Spinner';
import { useTokens } from '../ui/theme';
import { useKeys } from '../ui/useKeys';
import { useTitle } from '../ui/useTitle';
import { problemInWords } from '../ui/words/format';
import { useSay } from '../ui/words/words';
import { Drawers, drawers, type Drawer } from './Drawers';

export interface BenchProps {
  documentId: string;
  pageId: string;
  /** Its name; the first one where there is none of it. */
  drawer: string | null;
  /** What is looked for in its text. */
  find?: string;
  back: boolean;
}

/** One page on the bench: large, with its drawers. */
export function Bench({ documentId, pageId, drawer: named, find = '', back }: BenchProps) {
  const drawer = drawers.find((d) => d === named) ?? 'edges';
  const t = useTokens();
  const say = useSay();
  const router = useRouter();
  const dispatch = useAppDispatch();
  const { document, pages, loaded } = useDocument(documentId);
  const at = pages.findIndex((p) => p.id === pageId);
  const page = pages[at];
  const photo = usePhoto(page?.photoId);
  const turns = useTurns(documentId);
  const title = page ? say('page.title', { folio: at + 1, total: pages.length }) : say('page.alone');
  useTitle(title);
  const toSheet = () => router.navigate(`/document/${documentId}`);
  const show = (next: Drawer) => router.setParams({ drawer: next });
  const go = (to: number) => pages[to] && router.replace(`/document/${documentId}/page/${pages[to].id}?drawer=${drawer}`);
  const remove = () => {
    if (!document || !page) return;
    const next = pages[at + 1] ?? pages[at - 1];
    void dispatch(deletePages(document, [page]));
    if (next) router.replace(`/document/${documentId}/page/${next.id}?drawer=${drawer}`);
    else toSheet();
  };
  useKeys({
    j: () => go(at + 1),
    k: () => go(at - 1),
    e: () => show('edges'),
    f: () => show('finish'),
    m: () => show('marks'),
    t: () => show('text'),
    r: () => page && void dispatch(turnPages([page])),
    escape: toSheet,
    delete: remove,
    ...(back && {
      'mod+z': () => void dispatch(undoLast(documentId)),
      'mod+y': () => void dispatch(redoLast(documentId)),
      'mod+shift+z': () => void dispatch(redoLast(documentId)),
    }),
  });

  return (
    <View style={{ flex: 1, backgroundColor: t.paper }}>
      <View style={{ flexDirection: 'row', alignItems: 'center', paddingHorizontal: 4, minHeight: 52 }}>
        {back ? <IconAction icon="arrow-left" label={say('page.toSheet')} onPress={toSheet} /> : <View style={{ width: 12 }} />}
        <Heading variant="titleMedium" numberOfLines={1} style={{ flex: 1 }}>
          {title}
        </Heading>
        <IconAction icon="chevron-left" label={say('page.previous')} disabled={at <= 0} onPress={() => go(at - 1)} />
        <IconAction
          icon="chevron-right"
          label={say('page.next')}
          disabled={at < 0 || at >= pages.length - 1}
          onPress={() => go(at + 1)}
        />
        {back ? (
          <>
            <IconAction
              icon="undo"
              label={say('common.undo')}
              disabled={!turns.undo}
              onPress={() => void dispatch(undoLast(documentId))}
            />
            <IconAction
              icon="redo"
              label={say('common.redo')}
              disabled={!turns.redo}
              onPress={() => void dispatch(redoLast(documentId))}
            />
          </>
        ) : null}
        <MoreMenu
          label={say('common.more')}
          entries={[
            {
              icon: 'rotate-right',
              title: say('common.turn'),
              disabled: !page,
              onPress: () => page && void dispatch(turnPages([page])),
            },
            { icon: 'delete-outline', title: say('page.delete'), disabled: !page, onPress: remove },
            {
              icon: 'book-open-page-variant-outline',
              title: say('help.title'),
              onPress: () => router.push(`/help?at=${drawer}`),
            },
          ]}
        />
      </View>
      {loaded === 'reading' ? (
        <Spinner label={say('document.reading')} style={{ flex: 1, justifyContent: 'center' }} />
      ) : !page || !photo ? (
        <View style={{ padding: 16, gap: 12 }}>
          <Text>{say('page.gone')}</Text>
          <Action onPress={toSheet}>{say('page.toSheet')}</Action>
        </View>
      ) : page.state !== 'ready' || !page.recipe || !photo.width || !photo.height ? (
        <View style={{ flex: 1, alignItems: 'center', justifyContent: 'center', gap: 12, padding: 24 }}>
          {page.state === 'failed' ? (
            <Text style={{ color: t.rust }}>
              {say('page.failed', { name: photo.name, problem: problemInWords(say, page.problem ?? { code: 'not-read' }) })}
            </Text>
          ) : (
            <Spinner />
          )}
          <Text role="status" style={{ color: t.pencil }}>
            {say(page.state === 'failed' ? 'page.failedDo' : 'page.finding')}
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
          find={find}
          onRemedy={(check) => {
            const { remedy } = remedyOf(check);
            if (remedy === 'edges') show('edges');
            else if (remedy === 'retake') router.navigate(`/capture?into=${documentId}&again=${page.id}`);
            else if (remedy === 'turn') void dispatch(turnAsSaid(page, check));
            else {
              const twin = betterOf(check) === 'this' ? pages.find((p) => p.id === check.pageId) : undefined;
              if (twin) void dispatch(takeTwinOut(document!, page, check, twin));
              else remove();
            }
          }}
          onShow={show}
          onDone={() => (at < pages.length - 1 && !back ? go(at + 1) : toSheet())}
        />
      )}
    </View>
  );
}
