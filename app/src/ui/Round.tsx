import { View } from 'react-native';
import { Sign } from './Sign';
import { useTokens } from './theme';

/** A round of paper over a picture's corner: whether it is chosen. */
export function Round({ on, left, top, size }: { on: boolean; left: number; top: number; size: number }) {
  const t = useTokens();
  return (
    <View
      aria-hidden
      style={{
        position: 'absolute',
        left,
        top,
        width: size,
        height: size,
        borderRadius: size / 2,
        alignItems: 'center',
        justifyContent: 'center',
        backgroundColor: on ? t.wine : t.leaf,
        borderWidth: 1.5,
        borderColor: on ? t.wine : t.pencil,
      }}
    >
      {on ? <Sign source="check" size={Math.round(size * 0.63)} color={t.onWine} /> : null}
    </View>
  );
}
