// Must be first.
import '@expo/metro-runtime';
import './later';
import 'expo-router/entry';
