import { View } from 'react-native';
import { IconButton, Text } from 'react-native-paper';
import type { CameraChoice } from '../../camera/camera';
import { MoreMenu } from '../../components/MoreMenu';

export interface CaptureBarProps {
  name: string;
  grid: boolean;
  onGrid: () => void;
  /** Null where the camera has none. */
  light: boolean | null;
  onLight: () => void;
  cameras: readonly CameraChoice[];
  camera: string | null;
  onCamera: (id: string) => void;
  onFiles: () => void;
  onClose: () => void;
}

/** What belongs to the camera rather than to the run: grid, light, which camera, and files. */
export function CaptureBar({ name, grid, onGrid, light, onLight, cameras, camera, onCamera, onFiles, onClose }: CaptureBarProps) {
  return (
    <View style={{ flexDirection: 'row', alignItems: 'center', minHeight: 52, paddingHorizontal: 4 }}>
      <IconButton style={{ margin: 0 }} icon="close" accessibilityLabel="Close the camera" onPress={onClose} />
      <Text variant="titleMedium" role="heading" numberOfLines={1} style={{ flex: 1 }}>
        {name}
      </Text>
      <IconButton
        style={{ margin: 0 }}
        icon={grid ? 'grid' : 'grid-off'}
        accessibilityLabel={grid ? 'Hide the grid' : 'Show the grid'}
        onPress={onGrid}
      />
      {light === null ? null : (
        <IconButton
          style={{ margin: 0 }}
          icon={light ? 'flashlight' : 'flashlight-off'}
          accessibilityLabel={light ? 'Light off' : 'Light on'}
          onPress={onLight}
        />
      )}
      {cameras.length ? (
        <MoreMenu
          label="Which camera"
          entries={cameras.map(({ id, label }) => ({
            title: label,
            icon: id === camera ? 'check' : 'camera-outline',
            onPress: () => onCamera(id),
          }))}
        >
          {(open) => (
            <IconButton style={{ margin: 0 }} icon="camera-switch-outline" accessibilityLabel="Which camera" onPress={open} />
          )}
        </MoreMenu>
      ) : null}
      <IconButton style={{ margin: 0 }} icon="image-plus" accessibilityLabel="From files" onPress={onFiles} />
    </View>
  );
}
