import { Image, View } from 'react-native';
import { ActivityIndicator, Text } from 'react-native-paper';
import type { Outline, Page, Photo } from '@libretto/model';
import { Action } from '../../components/Action';
import { usePageImage } from '../../components/usePageImage';
import { setOutline, turnPages } from '../../state/editing';
import { wholePhoto } from '../../state/looking';
import { useAppDispatch } from '../../state/store';
import { useTokens } from '../../theme/theme';
import { sizeInWords } from '../shelf/words';
import { SizeMenu } from './SizeMenu';

/** The page as it will be, its size, and the ways to another outline. */
export function EdgesDrawer({ page, photo, draft }: { page: Page; photo: Photo; draft: Outline }) {
  const t = useTokens();
  const dispatch = useAppDispatch();
  const { url, current, image } = usePageImage({ ...page, recipe: { ...page.recipe!, outline: draft } }, 'draft');
  const ratio = image ? image.width / image.height : 0.7;
  const [w, h] = ratio > 0.75 ? [112, 112 / ratio] : [150 * ratio, 150];
  return (
    <View style={{ flexDirection: 'row', gap: 16, padding: 14 }}>
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
              accessibilityLabel="The page as it will be"
            />
          ) : (
            <ActivityIndicator />
          )}
        </View>
        <Text variant="titleSmall" style={{ color: t.pencil }}>
          as it will be
        </Text>
      </View>
      <View style={{ flex: 1, gap: 10 }}>
        {image ? (
          <Text testID="page-size">
            <Text variant="labelMedium">
              {image.sizeName ? `${sizeInWords({ ...image, dpi: image.photoDpi })}, ` : ''}
              {Math.round(image.widthMm)} × {Math.round(image.heightMm)} mm
            </Text>{' '}
            · {Math.round(image.photoDpi)} dpi
          </Text>
        ) : (
          <Text> </Text>
        )}
        <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
          <Action
            icon="vector-square"
            disabled={!page.found || page.found.source !== 'found'}
            onPress={() => page.found && dispatch(setOutline(page, page.found))}
          >
            As found
          </Action>
          <Action
            icon="image-outline"
            onPress={() => photo.width && photo.height && dispatch(setOutline(page, wholePhoto(photo.width, photo.height)))}
          >
            Whole photo
          </Action>
          <Action icon="rotate-right" onPress={() => dispatch(turnPages([page]))}>
            Turn
          </Action>
          <SizeMenu page={page} />
        </View>
      </View>
    </View>
  );
}
