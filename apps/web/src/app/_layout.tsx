import { AtkinsonHyperlegible_400Regular } from '@expo-google-fonts/atkinson-hyperlegible/400Regular';
import { AtkinsonHyperlegible_700Bold } from '@expo-google-fonts/atkinson-hyperlegible/700Bold';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { useFonts } from 'expo-font';
import { Stack } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { SafeAreaProvider } from 'react-native-safe-area-context';
import { DeliveryLine } from '../deliver';
import { NoticeLine } from '../look';
import '../look/global.css';

export { Broken as ErrorBoundary } from '../look';

export default function Layout() {
  // Words wait for their letters; the page does not.
  useFonts({ AtkinsonHyperlegible_400Regular, AtkinsonHyperlegible_700Bold });
  const [queries] = useState(
    () =>
      new QueryClient({
        defaultOptions: { queries: { retry: 1, networkMode: 'always' }, mutations: { networkMode: 'always' } },
      }),
  );
  return (
    <SafeAreaProvider>
      <QueryClientProvider client={queries}>
        <View className="flex-1 bg-desk">
          <Stack
            screenOptions={{ headerShown: false, animation: 'none', contentStyle: { backgroundColor: 'transparent' } }}
          />
          <DeliveryLine />
          <NoticeLine />
        </View>
      </QueryClientProvider>
    </SafeAreaProvider>
  );
}
