import { useState } from 'react';
import { Field } from './Field';

interface NameFieldProps {
  readonly label: string;
  readonly name: string;
  /** Characters of which more are cut off. */
  readonly most: number;
  /** Hears of another name; never of none. */
  readonly onName: (name: string) => void;
}

/** A name that is kept when its field is left; while nothing is typed it shows the one there is. */
export function NameField({ label, name, most, onName }: NameFieldProps) {
  const [typed, setTyped] = useState<string>();
  const keep = () => {
    const wanted = typed?.trim().slice(0, most);
    setTyped(undefined);
    if (wanted && wanted !== name) onName(wanted);
  };
  return <Field label={label} value={typed ?? name} onChange={setTyped} onSubmit={keep} onBlur={keep} />;
}
