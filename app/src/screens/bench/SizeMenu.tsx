import { useState } from 'react';
import { Menu } from 'react-native-paper';
import { namedSizes } from '@libretto/core/rectify/pageSize';
import type { Page } from '@libretto/model';
import { Action } from '../../components/Action';
import { setSize } from '../../state/editing';
import { useAppDispatch } from '../../state/store';

/** One photo holds no scale: where the size that was taken is wrong, it is said here. */
export function SizeMenu({ page }: { page: Page }) {
  const dispatch = useAppDispatch();
  const [open, setOpen] = useState(false);
  const wide = page.made ? page.made.widthMm > page.made.heightMm !== (page.recipe!.turn % 180 !== 0) : false;
  const choose = (size: (typeof namedSizes)[number] | null) => {
    setOpen(false);
    if (!size) return dispatch(setSize(page, undefined));
    const [short, long] = [Math.min(size.widthMm, size.heightMm), Math.max(size.widthMm, size.heightMm)];
    dispatch(setSize(page, { widthMm: wide ? long : short, heightMm: wide ? short : long, name: size.id }));
  };
  return (
    <Menu
      visible={open}
      onDismiss={() => setOpen(false)}
      anchor={
        <Action icon="ruler" onPress={() => setOpen(true)}>
          Size
        </Action>
      }
    >
      <Menu.Item dense title="As the photo tells" onPress={() => choose(null)} />
      {namedSizes.map((size) => (
        <Menu.Item
          dense
          key={size.id}
          title={`${size.label}, ${size.widthMm} × ${size.heightMm} mm`}
          onPress={() => choose(size)}
        />
      ))}
    </Menu>
  );
}
