import Send from 'lucide-react-native/icons/package';
import { useState } from 'react';
import { packageAddress } from '../api';
import { Button, say, Switch } from '../look';

/** A folio as one file for another desk. */
export function SendFolio({ id, onSent }: { readonly id: string; readonly onSent: () => void }) {
  const [withJournal, setWithJournal] = useState(true);
  const send = () => {
    const link = document.createElement('a');
    link.href = packageAddress(id, withJournal);
    link.download = '';
    link.click();
    say('The folio is on its way to your downloads.');
    onSent();
  };
  return (
    <>
      <Switch label="Undo goes along" on={withJournal} onChange={setWithJournal} />
      <Button label="Send as one file" icon={Send} onPress={send} />
    </>
  );
}
