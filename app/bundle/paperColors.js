// Of Paper's palette of 250 colours, those that its parts name; ours are in src/ui/tokens.ts.
export const [black, white] = ['#000000', '#ffffff'];
export const [grey50, grey200, grey400, grey700, grey800] = ['#fafafa', '#eeeeee', '#bdbdbd', '#616161', '#424242'];
export const [pinkA100, pinkA400] = ['#ff80ab', '#f50057'];
