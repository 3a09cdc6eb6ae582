module.exports = function (api) {
  api.cache(true);
  return {
    presets: ['babel-preset-expo'],
    // Metro does not tree-shake: this rewrites `import { Button } from 'react-native-paper'` to the component's own file.
    env: { production: { plugins: [['react-native-paper/babel', { mappings: require.resolve('./bundle/paperMappings') }]] } },
  };
};
