import { Text } from 'react-native';

/** What can be done here, where nothing is in hand yet. */
export const Hint = ({ children }: { readonly children: string }) => (
  <Text className="py-2 font-sans text-14 text-faint">{children}</Text>
);

/** The same in the one line of a phone's bench. */
export const LineHint = ({ children }: { readonly children: string }) => (
  <Text className="grow font-sans text-14 text-faint">{children}</Text>
);
