import { router, type ErrorBoundaryProps } from 'expo-router';
import { View } from 'react-native';
import { Button } from './Button';
import { Empty } from './Empty';

/** What is shown in place of a screen that broke down. */
export function Broken({ error, retry }: ErrorBoundaryProps) {
  const leave = () => {
    router.dismissTo('/');
    void retry();
  };
  return (
    <View className="flex-1 bg-desk" role="main">
      <Empty title="This screen broke down" detail={`What you drew is safe. What the app says of it: ${error.message}`}>
        <Button label="Try again" tone="seal" onPress={() => void retry()} />
        <Button label="To the shelf" onPress={leave} />
      </Empty>
    </View>
  );
}
