import { useRouter } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { Button, Text } from 'react-native-paper';
import { hasDoubt, type Page } from '@libretto/model';
import { redoLast, undoLast } from '../store/change';
import { turnPages } from '../store/editing';
import { restoreDocuments } from '../store/filing';
import { useApp, useAppDispatch } from '../store/store';
import { useDocument, useTurns } from '../store/useDocument';
import { Action } from '../ui/Action';
import { Banner } from '../ui/Banner';
import { DropArea } from '../ui/DropArea';

import { Heading } from '../ui/Heading';
import { IconAction } from '../ui/IconAction';
import { Progress } from '../ui/Progress';
import { Spinner } from '../ui/Spinner';
import { useTokens } from '../ui/theme';
import { useKeys } from '../ui/useKeys';
import { useTitle } from '../ui/useTitle';
import { sizesInWords, sizesOf } from '../ui/words/format';
import { useSay } from '../ui/words/words';
import { cancelJob, jobOf } from '../work/jobs';
import { useBringIn } from '../work/useBringIn';
import { FolderNotice } from './FolderNotice';
import { Hint } from './Hint';
import { LookClosely } from './lazy';
import { SlipNotice } from './SlipNotice';
import { OrderNotice } from './OrderNotice';
import { NameLine } from './NameLine';
import { PageGrid } from './PageGrid';
import { SelectionBar } from './SelectionBar';
import { useSelection } from './useSelection';

export interface ProofSheetProps {
  id: string;
  /** The page that stands open beside it, at wide size. */
  selected?: string;
  /** One column beside the page, without what belongs to the document as a whole. */
  narrow?: boolean;
  back?: boolean;
  onSend?: () => void;
}

/** A document's pages in order with their checks: here the batch is looked over, put into order, named and sent. */
export function ProofSheet({ id, selected, narrow = false, back = false, onSend }: ProofSheetProps) {
  const t = useTokens();
  const say = useSay();
  const router = useRouter();
  const dispatch = useAppDispatch();
  const { document, pages, loaded, newer } = useDocument(id);
  const turns = useTurns(id);
  const add = useBringIn(id);
  const doubtful = pages.filter(hasDoubt);
  const selection = useSelection(pages.map((p) => p.id));
  const choosing = selection.on && !narrow;
  const [looking, setLooking] = useState<{ at: string | undefined } | null>(null);
  const open = (page: Page) => {
    const to = `/document/${id}/page/${page.id}` as const;
    if (narrow) router.replace(to);
    else router.push(to);
  };
  const review = () => {
    const next = doubtful.find((p) => pages.indexOf(p) > pages.findIndex((q) => q.id === selected)) ?? doubtful[0];
    if (next) open(next);
  };
  useKeys({
    'mod+z': () => void dispatch(undoLast(id)),
    'mod+y': () => void dispatch(redoLast(id)),
    'mod+shift+z': () => void dispatch(redoLast(id)),
    ...(choosing
      ? {}
      : {
          s: () => pages.length && onSend?.(),
          r: () => !narrow && void dispatch(turnPages(pages)),
          // From the page that has the focus on.
          l: () =>
            !narrow && pages.length && setLooking({ at: window.document.activeElement?.getAttribute('data-page') ?? undefined }),
        }),
    'mod+a': () => !narrow && selection.set(pages.map((p) => p.id)),
    x: () => {
      // The page that has the focus.
      const id = window.document.activeElement?.getAttribute('data-page');
      if (id && !narrow) selection.toggle(id);
    },
  });

  if (!document || document.deletedAt)
    return (
      <View style={{ padding: 16, gap: 12, flex: 1 }}>
        {loaded === 'reading' ? (
          <Spinner label={say('document.reading')} style={{ flex: 1, justifyContent: 'center' }} />
        ) : (
          <>
            <Heading level={narrow ? 2 : 1} variant="titleMedium">
              {document ? say('document.binned') : loaded === 'newer' ? say('document.newer') : say('document.gone')}
            </Heading>
            {loaded === 'newer' ? (
              <Action main onPress={() => window.location.reload()}>
                {say('app.reload')}
              </Action>
            ) : null}
            {document ? (
              <Action main onPress={() => void dispatch(restoreDocuments([document]))}>
                {say('document.bringBack')}
              </Action>
            ) : null}
            <Action onPress={() => router.replace('/')}>{say('document.toShelf')}</Action>
          </>
        )}
      </View>
    );

  return (
    <DropArea onFiles={add}>
      {(choose) => (
        <View style={{ flex: 1, minHeight: 0 }}>
          {looking ? (
            <LookClosely
              pages={pages}
              start={looking.at}
              onClose={() => setLooking(null)}
              onOpen={(page) => {
                setLooking(null);
                open(page);
              }}
            />
          ) : null}
          {narrow ? null : <Titled name={document.name} />}
          {choosing ? (
            <View style={{ flexDirection: 'row', alignItems: 'center', paddingHorizontal: 4, minHeight: 52 }}>
              <IconAction icon="close" label={say('select.end')} onPress={selection.end} />
              <Heading level={2} variant="titleLarge" style={{ flex: 1 }}>
                {say('select.count', { count: selection.ids.length, total: pages.length })}
              </Heading>
              {doubtful.length ? (
                <Button mode="text" compact onPress={() => selection.set(doubtful.map((p) => p.id))}>
                  {say('select.doubtful')}
                </Button>
              ) : null}
              <Button mode="text" compact onPress={() => selection.set(pages.map((p) => p.id))}>
                {say('select.all')}
              </Button>
            </View>
          ) : (
            <View style={{ flexDirection: 'row', alignItems: 'center', paddingHorizontal: 4, minHeight: 52 }}>
              {back || narrow ? (
                <IconAction
                  icon="arrow-left"
                  label={narrow ? say('page.toSheet') : say('document.toShelf')}
                  onPress={() => router.navigate(narrow ? `/document/${id}` : '/')}
                />
              ) : null}
              <View style={{ flex: 1 }} />
              {pages.length && !narrow ? (
                <IconAction icon="magnify" label={say('look.title')} onPress={() => setLooking({ at: pages[0]!.id })} />
              ) : null}
              {pages.length && !narrow ? (
                <IconAction icon="checkbox-multiple-outline" label={say('select.begin')} onPress={() => selection.set([])} />
              ) : null}
              <IconAction icon="image-plus" label={say('document.addFiles')} onPress={choose} />
              <IconAction
                icon="undo"
                label={say('common.undo')}
                disabled={!turns.undo}
                onPress={() => void dispatch(undoLast(id))}
              />
              <IconAction
                icon="redo"
                label={say('common.redo')}
                disabled={!turns.redo}
                onPress={() => void dispatch(redoLast(id))}
              />
            </View>
          )}
          <PageGrid
            selection={selection}
            document={document}
            pages={pages}
            narrow={narrow}
            {...(selected && { selected })}
            onOpen={open}
            header={
              <>
                {narrow ? null : (
                  <View style={{ paddingHorizontal: 16, gap: 2 }}>
                    <NameLine document={document} />
                    <Text variant="bodySmall" style={{ color: t.pencil }}>
                      {[say('pages', { count: document.pageIds.length }), sizesInWords(say, sizesOf(pages))]
                        .filter(Boolean)
                        .join(say('common.dot'))}
                    </Text>
                  </View>
                )}
                <View style={{ padding: narrow ? 8 : 16, gap: 8 }}>
                  {doubtful.length ? (
                    <Banner tone="attention" title={say('document.attention', { count: doubtful.length, total: pages.length })}>
                      <Button mode="text" compact onPress={review}>
                        {say('document.review')}
                      </Button>
                    </Banner>
                  ) : null}
                  {narrow ? null : <FolderNotice document={document} />}
                  {narrow || !document.slipAsks ? null : <SlipNotice document={document} asks={document.slipAsks} />}
                  {narrow ? null : <OrderNotice document={document} pages={pages} />}
                  {!narrow && pages.length > 1 ? (
                    <Hint id="select" words={say('document.hintSelect')} done={selection.on} />
                  ) : null}
                  {newer.map((pageId) => (
                    <Banner
                      key={pageId}
                      tone="attention"
                      title={say('document.newerPage', { folio: document.pageIds.indexOf(pageId) + 1 })}
                    />
                  ))}
                </View>
              </>
            }
            footer={pages.length ? null : <Text style={{ padding: 16, color: t.pencil }}>{say('document.empty')}</Text>}
          />
          <UnderWay id={id} pages={pages} />
          {choosing ? (
            <SelectionBar document={document} pages={pages} selection={selection} />
          ) : narrow ? null : (
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
                {say('document.addPages')}
              </Action>
              <Action
                tall
                main
                icon="send"
                disabled={!pages.some((p) => p.state === 'ready')}
                onPress={onSend}
                style={{ flex: 5 }}
              >
                {say('common.send')}
              </Action>
            </View>
          )}
        </View>
      )}
    </DropArea>
  );
}

function Titled({ name }: { name: string }) {
  useTitle(name);
  return null;
}

/** What is going on with the document: it stands over the bottom row, where no page can cover it. */
function UnderWay({ id, pages }: { id: string; pages: readonly Page[] }) {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const job = useApp((s) => jobOf(s, 'import', id) ?? jobOf(s, 'export', id));
  const looking = pages.filter((p) => p.state === 'looking').length;
  if (!job && !looking) return null;
  const words = job
    ? say(job.kind === 'import' ? 'document.importing' : 'document.saving', { done: job.done, total: job.total })
    : say('document.looking', { done: pages.length - looking, total: pages.length });
  return (
    <View
      role="status"
      style={{
        paddingHorizontal: 16,
        paddingTop: 8,
        gap: 4,
        backgroundColor: t.leaf,
        borderTopWidth: 1,
        borderColor: t.hairline,
      }}
    >
      <Progress value={job ? job.done / Math.max(1, job.total) : (pages.length - looking) / pages.length} label={words} />
      <View style={{ flexDirection: 'row', alignItems: 'center', justifyContent: 'space-between', minHeight: 44 }}>
        <Text variant="bodySmall" style={{ color: t.pencil }}>
          {words}
        </Text>
        {job ? (
          <Button mode="text" compact onPress={() => dispatch(cancelJob(job.id))}>
            {say('common.stop')}
          </Button>
        ) : null}
      </View>
    </View>
  );
}
