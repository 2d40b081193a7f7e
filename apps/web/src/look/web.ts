import type { ViewProps } from 'react-native';

/** DOM events and attributes that react-native-web hands on but React Native's types do not know. */
interface WebProps {
  readonly onKeyDown?: (event: { readonly key: string; readonly shiftKey: boolean; preventDefault(): void }) => void;
  readonly onPointerEnter?: () => void;
  readonly onPointerLeave?: () => void;
  readonly tabIndex?: 0 | -1;
  readonly title?: string;
}

export const web = (props: WebProps): ViewProps => props as ViewProps;
