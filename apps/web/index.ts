// First of all what takes long and needs nothing of the app: the page that the address asks for.
import './src/open/earlyPage';
import 'expo-router/entry';
