// What of Expo Router the app uses, each from its own file: `expo-router` itself brings tabs, stacks and headers.
export { Link } from './link';
export { Slot } from 'expo-router/build/views/Navigator';
export { useGlobalSearchParams, useLocalSearchParams, usePathname, useRouter } from 'expo-router/build/hooks';
