import { View } from 'react-native';
import type { CameraChoice } from './camera/camera';
import { Heading } from '../ui/Heading';
import { IconAction } from '../ui/IconAction';
import { MoreMenu } from '../ui/MoreMenu';
import { useSay } from '../ui/words/words';
import { standInKind } from './camera/standIn';

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
  const say = useSay();
  const nameOf = ({ id, label }: CameraChoice, i: number) => {
    const kind = standInKind(id);
    return kind ? say(`capture.standIn.${kind}`) : label || say('capture.cameraN', { number: i + 1 });
  };
  return (
    <View style={{ flexDirection: 'row', alignItems: 'center', minHeight: 52, paddingHorizontal: 4 }}>
      <IconAction icon="close" label={say('capture.close')} onPress={onClose} />
      <Heading variant="titleMedium" numberOfLines={1} style={{ flex: 1 }}>
        {name}
      </Heading>
      <IconAction icon={grid ? 'grid' : 'grid-off'} label={say(grid ? 'capture.gridOff' : 'capture.gridOn')} onPress={onGrid} />
      {light === null ? null : (
        <IconAction
          icon={light ? 'flashlight' : 'flashlight-off'}
          label={say(light ? 'capture.lightOff' : 'capture.lightOn')}
          onPress={onLight}
        />
      )}
      {cameras.length ? (
        <MoreMenu
          label={say('capture.camera')}
          entries={cameras.map((choice, i) => ({
            title: nameOf(choice, i),
            icon: choice.id === camera ? 'check' : 'camera-outline',
            onPress: () => onCamera(choice.id),
          }))}
        >
          {(open) => (
            <IconAction icon="camera-switch-outline" label={say('capture.camera')} aria-haspopup="menu" onPress={open} />
          )}
        </MoreMenu>
      ) : null}
      <IconAction icon="image-plus" label={say('capture.fromFiles')} onPress={onFiles} />
    </View>
  );
}
