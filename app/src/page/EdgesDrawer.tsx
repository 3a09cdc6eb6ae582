import { useEffect, useRef, useState } from 'react';
import { Image, View } from 'react-native';
import { Text } from 'react-native-paper';
import { rotatedQuad } from '@libretto/core/rectify/rotated';
import type { Document, Outline, Page, Photo } from '@libretto/model';
import { Action } from '../ui/Action';
import { MoreMenu } from '../ui/MoreMenu';
import { usePageImage } from '../work/usePageImage';
import { joinPages, mirrorPage, setOutlines, splitPage, turnPages } from '../store/editing';
import { straighten, wholePhoto } from '../work/looking';
import { useAppDispatch } from '../store/store';
import { Spinner } from '../ui/Spinner';
import { useTokens } from '../ui/theme';
import { sizeInWords } from '../ui/words/format';
import { useSay } from '../ui/words/words';
import { halves, isCurved, middlePart, type Quad } from './quad';
import { PagePicker } from './PagePicker';
import { shotAlike } from './shotAlike';
import { SizeMenu } from './SizeMenu';

export interface EdgesDrawerProps {
  page: Page;
  photo: Photo & { width: number; height: number };
  document: Document;
  pages: readonly Page[];
  draft: Outline;
  picking: boolean;
  onPicking: (on: boolean) => void;
  /** Whether the sides show their curve handles. */
  bending: boolean;
  onBending: () => void;
  onDraft: (quad: Quad) => void;
  onEdges: (outline: Outline) => void;
}

const byHand = (quad: Quad): Outline => ({ v: 1, quad, confidence: 1, source: 'hand' });

/** The page as it will be, its size, and the ways to another outline. */
export function EdgesDrawer({
  page,
  photo,
  document,
  pages,
  draft,
  picking,
  onPicking,
  bending,
  onBending,
  onDraft,
  onEdges,
}: EdgesDrawerProps) {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const { url, current, image } = usePageImage({ ...page, recipe: { ...page.recipe!, outline: draft } }, 'draft');
  const [angle, setAngle] = useState(0);
  const [same, setSame] = useState(false);
  const ratio = image ? image.width / image.height : 0.7;
  const [w, h] = ratio > 0.75 ? [112, 112 / ratio] : [150 * ratio, 150];
  const { outline, turn } = page.recipe!;
  const millimetres = image ? say('size.mm', { width: Math.round(image.widthMm), height: Math.round(image.heightMm) }) : '';
  const latest = useRef(outline);
  useEffect(() => {
    latest.current = outline;
  });
  const sideways = turn % 180 !== 0;
  const lying = sideways ? 1 / ratio : ratio;
  const turned = (degrees: number) => rotatedQuad(outline.quad, degrees, lying) as Quad;
  const next = pages[pages.indexOf(page) + 1];
  const neighbour = next && next.photoId === page.photoId && next.recipe ? next : null;
  const alike = shotAlike(page, photo, pages);
  const makeLevel = async () => {
    const told = await dispatch(straighten(page));
    // What was found for edges that are other ones by now is of no use.
    if (told && latest.current === outline)
      onEdges({ ...byHand(turned(told.degrees)), ...told.bent, source: outline.source === 'whole' ? 'whole' : 'hand' });
  };
  const join = () => {
    const [a, b] = [outline.quad, neighbour!.recipe!.outline.quad];
    void dispatch(joinPages(document, page, neighbour!, byHand([a[0], b[1], b[2], a[3]])));
  };
  return (
    <View style={{ padding: 14, gap: 10 }}>
      {page.freed ? (
        <Text role="note" variant="bodySmall" style={{ color: t.pencil }}>
          {say('edges.freed')}
        </Text>
      ) : null}
      <View style={{ flexDirection: 'row', gap: 16 }}>
        <View style={{ width: 114, alignItems: 'center', gap: 6 }}>
          <View
            style={{
              width: w,
              height: h,
              borderWidth: 1,
              borderColor: t.hairline,
              backgroundColor: t.leaf,
              justifyContent: 'center',
            }}
          >
            {url ? (
              <Image
                source={{ uri: url }}
                style={{ width: '100%', height: '100%', opacity: current ? 1 : 0.55 }}
                accessibilityLabel={say('edges.previewAlt')}
              />
            ) : (
              <Spinner />
            )}
          </View>
          <Text variant="titleSmall" style={{ color: t.pencil }}>
            {say('edges.preview')}
          </Text>
        </View>
        <View style={{ flex: 1, gap: 10 }}>
          {image ? (
            <Text testID="page-size">
              <Text variant="labelMedium">
                {image.sizeName
                  ? say('size.named', { name: sizeInWords(say, { ...image, dpi: image.photoDpi }), size: millimetres })
                  : millimetres}
              </Text>
              {say('common.dot')}
              {say('edges.resolution', { value: Math.round(image.photoDpi) })}
            </Text>
          ) : (
            <Text> </Text>
          )}
          <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
            <Action
              compact
              disabled={!page.found || page.found.source !== 'found'}
              onPress={() => page.found && onEdges(page.found)}
            >
              {say('edges.asFound')}
            </Action>
            <Action compact main={picking} onPress={() => onPicking(!picking)}>
              {say(picking ? 'edges.tap' : 'edges.findHere')}
            </Action>
            <Action compact onPress={() => onEdges(wholePhoto(photo.width, photo.height))}>
              {say('edges.whole')}
            </Action>
            <Action compact onPress={() => void dispatch(turnPages([page]))}>
              {say('common.turn')}
            </Action>
            <SizeMenu page={page} />
            <MoreMenu
              label={say('edges.ways')}
              entries={[
                {
                  icon: 'angle-acute',
                  title: say('edges.straighten'),
                  // A page whose sides are bent is straight already once it is flattened; turned, they would be lost.
                  disabled: isCurved(outline),
                  onPress: () => void makeLevel(),
                },
                { icon: 'crop', title: say('edges.part'), onPress: () => onEdges(byHand(middlePart(outline.quad))) },
                {
                  icon: 'vector-curve',
                  title: say(bending ? 'edges.straightSides' : 'edges.bend'),
                  onPress: () => (bending ? onEdges(byHand(outline.quad)) : onBending()),
                },
                { icon: 'flip-horizontal', title: say('edges.mirror'), onPress: () => void dispatch(mirrorPage(page)) },
                {
                  icon: 'book-open-page-variant-outline',
                  title: say('edges.split'),
                  onPress: () => {
                    const [first, second] = halves(outline.quad, lying >= 1);
                    void dispatch(splitPage(document, page, [byHand(first), byHand(second)]));
                  },
                },
                { icon: 'set-merge', title: say('edges.join'), disabled: !neighbour, onPress: join },
                {
                  icon: 'content-copy',
                  title: alike.length ? say('edges.sameFor', { count: alike.length }) : say('edges.sameForOthers'),
                  disabled: !alike.length,
                  onPress: () => setSame(true),
                },
              ]}
            >
              {(open) => (
                <Action compact onPress={open}>
                  {say('edges.ways')}
                </Action>
              )}
            </MoreMenu>
          </View>
        </View>
      </View>
      <label style={{ display: 'flex', alignItems: 'center', gap: 12, minHeight: 44 }}>
        <Text style={{ width: 114 }}>
          {angle ? say('edges.angleOf', { value: `${angle > 0 ? '+' : '−'}${Math.abs(angle)}` }) : say('edges.angle')}
        </Text>
        <input
          type="range"
          min={-20}
          max={20}
          step={0.5}
          value={angle}
          aria-label={say('edges.angle')}
          aria-valuetext={say('edges.degrees', { value: angle })}
          style={{ flex: 1, minWidth: 0, height: 44, accentColor: t.wine }}
          onChange={(event) => {
            const degrees = Number(event.currentTarget.value);
            setAngle(degrees);
            onDraft(turned(degrees));
          }}
          onPointerUp={() => {
            if (angle) onEdges(byHand(turned(angle)));
            setAngle(0);
          }}
          onBlur={() => {
            if (angle) onEdges(byHand(turned(angle)));
            setAngle(0);
          }}
        />
      </label>
      {same ? (
        <PagePicker
          title={say('edges.sameQuestion')}
          pages={alike}
          all={pages}
          recipeFor={(p) => ({ ...p.recipe!, outline: draft })}
          onUse={(chosen) => void dispatch(setOutlines(chosen, draft))}
          onClose={() => setSame(false)}
        />
      ) : null}
    </View>
  );
}
