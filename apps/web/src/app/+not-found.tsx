import { router } from 'expo-router';
import { Button, Empty } from '../look';

export default function NotFound() {
  return (
    <Empty
      title="There is nothing here"
      detail="This address leads nowhere. Your folios are on the shelf, as you left them."
    >
      <Button label="To the shelf" tone="seal" onPress={() => router.dismissTo('/')} />
    </Empty>
  );
}
