import { useMutation, useQueryClient } from '@tanstack/react-query';
import Copy from 'lucide-react-native/icons/copy';
import Trash from 'lucide-react-native/icons/trash';
import { useState, type ReactNode } from 'react';
import { duplicate, KEYS, remove, rename, restore, type Shelved } from '../api';
import { Button, Field, say, sayError, Sheet } from '../look';

interface MoreSheetProps {
  readonly kind: Shelved;
  readonly id: string;
  readonly name: string;
  readonly onClose: () => void;
  /** What else can be done with it. */
  readonly children?: ReactNode;
}

/** What can be done with a folio or a page: rename, duplicate, delete (which can be taken back). */
export function MoreSheet({ kind, id, name, onClose, children }: MoreSheetProps) {
  const queries = useQueryClient();
  const [newName, setNewName] = useState(name);
  const act = useMutation({
    mutationFn: (action: () => Promise<unknown>) => action(),
    onSuccess: onClose,
    onError: sayError,
    onSettled: () => queries.invalidateQueries({ queryKey: KEYS.shelf }),
  });
  const onRename = () => act.mutate(() => rename(kind, id, newName.trim()));
  const onDelete = () =>
    act.mutate(async () => {
      await remove(kind, id);
      const takeBack = () =>
        void restore(kind, id)
          .catch(sayError)
          .finally(() => queries.invalidateQueries({ queryKey: KEYS.shelf }));
      say(`${name} was deleted.`, { label: 'Undo', run: takeBack });
    });
  return (
    <Sheet title={name} onClose={onClose}>
      <Field label="Name" value={newName} onChange={setNewName} onSubmit={onRename} />
      <Button
        label="Rename"
        tone="seal"
        disabled={newName.trim() === '' || newName.trim() === name || act.isPending}
        onPress={onRename}
      />
      {children}
      <Button
        label="Duplicate"
        icon={Copy}
        disabled={act.isPending}
        onPress={() => act.mutate(() => duplicate(kind, id))}
      />
      <Button label="Delete" icon={Trash} disabled={act.isPending} onPress={onDelete} />
    </Sheet>
  );
}
