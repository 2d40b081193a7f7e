declare module '*.css';
declare module '@expo-google-fonts/atkinson-hyperlegible/400Regular' {
  export const AtkinsonHyperlegible_400Regular: number;
}
declare module '@expo-google-fonts/atkinson-hyperlegible/700Bold' {
  export const AtkinsonHyperlegible_700Bold: number;
}
