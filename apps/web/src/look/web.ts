import type { ViewProps } from 'react-native';

/** DOM events and attributes that react-native-web hands on but React Native's types do not know. */
interface WebProps {
  readonly onKeyDown?: (event: { readonly key: string; readonly shiftKey: boolean; preventDefault(): void }) => void;
  readonly onPointerEnter?: () => void;
  readonly onPointerLeave?: () => void;
  readonly tabIndex?: 0 | -1;
  readonly title?: string;
  readonly 'aria-describedby'?: string;
}

/** react-native-web keeps `title` to itself, so it is written to the element. */
const titled = (title: string) => (element: unknown) => {
  if (element instanceof HTMLElement) element.title = title;
};

export const web = ({ title, ...props }: WebProps): ViewProps =>
  (title === undefined ? props : { ...props, ref: titled(title) }) as ViewProps;
