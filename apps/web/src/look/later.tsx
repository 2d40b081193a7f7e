import { useEffect, useReducer, useState, type ComponentType } from 'react';
import { Text } from 'react-native';

/**
 * A part of a view whose program is fetched when it is first shown: nothing is there until it has come. When it cannot be
 * fetched, that is said, and the next view that shows it tries again.
 */
export function later<Props extends object>(load: () => Promise<ComponentType<Props>>): ComponentType<Props> {
  let Part: ComponentType<Props> | undefined;
  return function Later(props: Props) {
    const [, showAnew] = useReducer((count: number) => count + 1, 0);
    const [hasFailed, setFailed] = useState(false);
    useEffect(() => {
      if (Part) return;
      load().then(
        (loaded) => {
          Part = loaded;
          showAnew();
        },
        () => setFailed(true),
      );
    }, []);
    if (Part) return <Part {...props} />;
    if (!hasFailed) return null;
    return (
      <Text className="font-sans text-14 text-faint">
        This part could not be fetched. Open it again once the server answers.
      </Text>
    );
  };
}
