import { useRef } from 'react';
import { View } from 'react-native';
import { ProgressBar, Text } from 'react-native-paper';
import { Action } from '../../components/Action';
import { Stitches } from '../../components/Stitches';
import { useApp } from '../../state/store';
import { useTokens } from '../../theme/theme';
import { corner } from '../../theme/tokens';
import { DropArea } from './DropArea';
import { useBringIn } from './useBringIn';

/** Bringing in photographs: from files, by drop or paste, or through the phone's own camera. */
export function BringIn({ into }: { into: string | null }) {
  const t = useTokens();
  const { add, cancel } = useBringIn(into);
  const camera = useRef<HTMLInputElement>(null);
  const importing = useApp((s) => s.work.import);
  return (
    <DropArea onFiles={add}>
      {(open) => (
        <View style={{ flex: 1, padding: 16, gap: 16 }}>
          <Text variant="headlineMedium" role="heading">
            Bring in photographs
          </Text>
          <View
            style={{
              flex: 1,
              maxHeight: 380,
              borderWidth: 1,
              borderColor: t.hairline,
              borderRadius: corner,
              backgroundColor: t.leaf,
              alignItems: 'center',
              justifyContent: 'center',
              padding: 24,
              gap: 14,
            }}
          >
            <Text variant="titleMedium" style={{ textAlign: 'center' }}>
              Each photograph becomes a page
            </Text>
            <View style={{ width: 180 }}>
              <Stitches color={t.wine} />
            </View>
            <Text style={{ textAlign: 'center', color: t.pencil }}>
              Choose several at once, drop them here, or paste them. JPEG, PNG and WebP, up to 48 megapixels and more; PDFs come
              in page by page.
            </Text>
            {importing ? (
              <View role="status" style={{ width: '100%', gap: 8 }}>
                <ProgressBar progress={importing.done / Math.max(1, importing.total)} />
                <View style={{ flexDirection: 'row', justifyContent: 'space-between', alignItems: 'center' }}>
                  <Text>
                    {importing.done} of {importing.total} safe
                  </Text>
                  <Action onPress={cancel}>Stop</Action>
                </View>
              </View>
            ) : null}
          </View>
          <View style={{ gap: 10 }}>
            <Action main tall icon="image-plus" onPress={open}>
              Choose photographs
            </Action>
            <Action tall icon="camera-outline" onPress={() => camera.current?.click()}>
              Take one with the camera
            </Action>
          </View>
          <input
            ref={camera}
            type="file"
            accept="image/*"
            capture="environment"
            hidden
            aria-label="Take a photograph"
            onChange={(event) => {
              void add([...(event.target.files ?? [])]);
              event.target.value = '';
            }}
          />
        </View>
      )}
    </DropArea>
  );
}
