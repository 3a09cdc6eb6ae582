import { useRouter } from 'expo-router';
import { useEffect, useRef, useState } from 'react';
import { ScrollView, useWindowDimensions, View } from 'react-native';
import { Text, TouchableRipple } from 'react-native-paper';
import { type Adjust, type Check, type Document, type Outline, type Page, type Photo, type Touch } from '@libretto/model';
import { Action } from '../ui/Action';
import { usePhotoUrl } from '../work/usePageImage';
import { approveOutline, finishAll, setFinish, setOutline, settleCheck } from '../store/editing';
import { findHere, inspectAgain } from '../work/looking';
import { paint } from '../work/painting';
import { usePageText } from '../work/usePageText';
import { usePlaces } from '../work/usePlaces';
import { framesOf, useTaken } from '../work/useTaken';
import { useAppDispatch } from '../store/store';
import { useTokens } from '../ui/theme';
import { useArrows } from '../ui/useArrows';
import { useSay } from '../ui/words/words';
import { corner } from '../ui/tokens';
import { CheckRow } from './CheckRow';
import { EdgesDrawer } from './EdgesDrawer';
import { EdgesStage } from './EdgesStage';
import { detailSize, FinishDrawer } from './FinishDrawer';
import { FinishStage } from './FinishStage';
import { MarksDrawer } from './MarksDrawer';
import { MarksStage } from './MarksStage';
import { NoteSheet } from './NoteSheet';
import { isCurved, polygonFor, withGutter, type Quad } from './quad';
import { SignatureSheet } from './lazy';
import { TextDrawer } from './TextDrawer';
import { TextStage } from './TextStage';
import { useDetails } from './useDetails';
import { useMarks } from './useMarks';
import { useOutlineDraft } from './useOutlineDraft';

export const drawers = ['edges', 'finish', 'marks', 'text'] as const;
export type Drawer = (typeof drawers)[number];

/** From this width on the drawer stands beside the page, so wide, px. */
const wideBenchPx = 760;
const besidePx = 348;

/** Corners of two pages this near, share of the photo's longer side, are one corner: the gutter's. */
const gutterShare = 0.01;

interface DrawersProps {
  /** What is looked for in its text, as it was on the shelf. */
  find: string;
  page: Page;
  photo: Photo & { width: number; height: number };
  document: Document;
  pages: readonly Page[];
  drawer: Drawer;
  onRemedy: (check: Check) => void;
  onShow: (drawer: Drawer) => void;
  onDone: () => void;
}

/** The stage and its drawer: edges or finish, the page's worst doubt between them. */
export function Drawers({ find, page, photo, document, pages, drawer, onRemedy, onShow, onDone }: DrawersProps) {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const window = useWindowDimensions();
  const url = usePhotoUrl(page.photoId);
  const outline = page.recipe!.outline;
  const [shown, draw, send] = useOutlineDraft(outline);
  const [picking, setPicking] = useState(false);
  const [painting, setPainting] = useState<Touch['kind'] | null>(null);
  const [toBend, setToBend] = useState(false);
  const router = useRouter();
  const [spot, setSpot] = useState<[number, number] | null>(null);
  const [query, setQuery] = useState(find);
  const read = usePageText(drawer === 'text' ? page : null);
  const taken = useTaken(page, read.text);
  const places = usePlaces(drawer === 'marks' ? page : null);
  const marks = useMarks(page);
  const onPage = page.recipe!.marks ?? [];
  const covers = onPage.filter((m) => m.kind === 'cover').length;
  const [width, setWidth] = useState(390);
  const beside = width >= wideBenchPx;
  const arrows = useArrows(drawers, drawer, onShow);
  const details = useDetails(page, spot, detailSize);
  const asOutline = (next: Quad): Outline => {
    const polygon = polygonFor(outline, next);
    return { v: 1, quad: next, ...(polygon && { polygon }), confidence: 1, source: 'hand' };
  };
  const latest = useRef(outline);
  useEffect(() => {
    latest.current = outline;
  });
  const bending = toBend || isCurved(shown);
  const siblings = pages.filter((p) => p.photoId === page.photoId && p.recipe);
  const pick = async (at: readonly [number, number]) => {
    setPicking(false);
    const asked = outline;
    const found = await dispatch(findHere(page, at));
    // Edges that were set in the meantime are wanted more than what was asked before.
    if (found && latest.current === asked) setEdges(found);
  };
  const setEdges = (next: Outline) => {
    const near = gutterShare * Math.max(photo.width, photo.height);
    const also = siblings.flatMap((other) => {
      const its = other.recipe!.outline;
      const quad = other.id === page.id ? null : withGutter(outline.quad, next.quad, its.quad, near);
      const polygon = quad && polygonFor(its, quad);
      return quad ? [{ page: other, outline: { ...its, quad, ...(polygon && { polygon }), source: 'hand' as const } }] : [];
    });
    send(next);
    void dispatch(setOutline(page, next, also));
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
  const leave = () => {
    if (drawer === 'edges' && (check?.id === 'unsure-outline' || check?.id === 'no-page')) void dispatch(approveOutline(page));
    onDone();
  };
  return (
    <View
      style={{ flex: 1, minHeight: 0, flexDirection: beside ? 'row' : 'column' }}
      onLayout={(event) => setWidth(event.nativeEvent.layout.width)}
    >
      <View style={{ flex: 1, minHeight: 0, minWidth: 0 }}>
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
        ) : drawer === 'marks' ? (
          <MarksStage
            page={page}
            places={places}
            tool={marks.tool}
            selected={marks.selected}
            onSelect={marks.select}
            onMark={marks.add}
            onNote={marks.note}
            onChange={marks.change}
            onDelete={marks.remove}
          />
        ) : drawer === 'text' ? (
          <TextStage page={page} text={read.text} frames={framesOf(page, read.text, taken)} query={query} />
        ) : (
          <FinishStage
            page={page}
            draft={turned}
            at={spot ?? details.at}
            onPick={setSpot}
            painting={painting}
            onPaint={(stroke) => void dispatch(paint(page, stroke))}
            onPaintingDone={() => setPainting(null)}
          />
        )}
      </View>
      <View style={beside ? { width: besidePx, borderLeftWidth: 1, borderColor: t.hairline } : { minHeight: 0, flexShrink: 1 }}>
        {check ? (
          <CheckRow
            check={check}
            other={other}
            more={page.checks.length - 1}
            onRemedy={() => onRemedy(check)}
            onSettle={() =>
              void dispatch(
                check.id === 'unsure-outline' || check.id === 'no-page' ? approveOutline(page) : settleCheck(page, check),
              )
            }
          />
        ) : null}
        <div
          role="tablist"
          aria-label={say('page.drawers')}
          onKeyDown={arrows.onKeyDown}
          style={{ display: 'flex', gap: 4, padding: '8px 12px 0', background: t.well }}
        >
          {drawers.map((id) => (
            <TouchableRipple
              key={id}
              role="tab"
              aria-selected={drawer === id}
              tabIndex={arrows.tabIndexOf(id)}
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
                {say(`page.${id}`)}
              </Text>
            </TouchableRipple>
          ))}
        </div>
        <ScrollView
          style={
            beside
              ? { flex: 1, backgroundColor: t.leaf }
              : { flexGrow: 0, maxHeight: Math.max(220, window.height * 0.4), backgroundColor: t.leaf }
          }
        >
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
          ) : drawer === 'marks' ? (
            <MarksDrawer
              choice={marks.choice}
              onChoice={marks.choose}
              held={marks.held}
              onEdit={marks.edit}
              onSign={marks.sign}
              signed={marks.signature !== null}
              onDelete={marks.remove}
              onCopy={(mark) => places && marks.copy(mark, places)}
              onRestyle={marks.restyle}
            />
          ) : drawer === 'text' ? (
            <TextDrawer page={page} read={read} taken={taken} query={query} onQuery={setQuery} />
          ) : (
            <FinishDrawer
              page={page}
              details={details}
              width={beside ? besidePx : width}
              others={others.filter((p) => p.id !== page.id)}
              all={pages}
              painting={painting}
              onPainting={setPainting}
              adjusting={{
                adjust: turned ? turned.adjust : adjust,
                onMove: (next) => setTurned({ adjust: next }),
                onSet: (next) => {
                  setTurned(null);
                  void dispatch(setFinish([page], { filter, ...(next && { adjust: next }) }));
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
              {say(outline.source === 'hand' ? 'page.byHand' : outline.source === 'whole' ? 'page.whole' : 'page.found')}
            </Text>
          ) : drawer === 'marks' ? (
            <Text variant="bodySmall" style={{ flex: 1, color: t.pencil }}>
              {[say('marks.count', { count: onPage.length }), covers ? say('marks.covers', { count: covers }) : '']
                .filter(Boolean)
                .join(say('common.comma'))}
            </Text>
          ) : drawer === 'text' ? (
            <Text variant="bodySmall" style={{ flex: 1, color: t.pencil }}>
              {say('text.select')}
            </Text>
          ) : (
            <Action
              tall
              disabled={!others.length}
              onPress={() => void dispatch(finishAll(document, pages, finish))}
              style={{ flex: 1 }}
            >
              {pages.length > 1 ? say('page.useForAll', { count: pages.length }) : say('page.only')}
            </Action>
          )}
          <Action tall main onPress={leave} style={{ minWidth: 110 }}>
            {say('common.done')}
          </Action>
        </View>
      </View>
      {marks.signing ? <SignatureSheet kept={marks.signature} onKeep={marks.keepSignature} onClose={marks.endSigning} /> : null}
      {marks.noting ? <NoteSheet before={marks.noting.mark?.text ?? ''} onKeep={marks.keepNote} onClose={marks.endNote} /> : null}
    </View>
  );
}
