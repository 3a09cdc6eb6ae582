// Expo Router's stack and tabs, of which only the rules for moving between screens are used: screens are drawn by <Slot>.
import { createContext } from 'react';

export const createNativeStackNavigator = () => ({ Navigator: () => null });
export const BottomTabBarHeightContext = createContext(undefined);
/** Native screens have switches of their own. */
export const featureFlags = { experiment: {}, stable: {} };
/** What stands in a page's head is set where it is known. */
export const Helmet = () => null;
export const HelmetProvider = ({ children }) => children;
export const Sitemap = () => null;
export const getNavOptions = () => ({});
