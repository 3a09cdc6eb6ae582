// Must be first.
import '@expo/metro-runtime';
import './later';
import { App } from 'expo-router/build/qualified-entry';
import { renderRootComponent } from 'expo-router/build/renderRootComponent';
import { startTransition } from 'react';

// What expo-router/entry does, in a transition: the first drawing of all then makes way for a finger.
startTransition(() => renderRootComponent(App));
