// Where Paper's parts lie, with those that its own list lacks: one import of the whole brings all of it.
const { mappings, ...rest } = require('react-native-paper/lib/mappings.json');

const theme = (name) => ({ path: `lib/module/styles/themes/v3/${name.slice(3)}`, name });
module.exports = {
  ...rest,
  mappings: { ...mappings, MD3LightTheme: theme('MD3LightTheme'), MD3DarkTheme: theme('MD3DarkTheme') },
};
