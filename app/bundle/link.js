// Expo Router's link without the previews, menus and zooms that only iPhones' own apps have.
export { BaseExpoRouterLink as Link } from 'expo-router/build/link/BaseExpoRouterLink';
export { Redirect } from 'expo-router/build/link/Redirect';
