import type { LucideIcon } from 'lucide-react-native';
import type { colors } from './tokens';

export type Role = keyof typeof colors.light;

interface IconProps {
  readonly of: LucideIcon;
  readonly size?: number;
  readonly tone?: Role;
}

/** An icon at the desk's one stroke width. A word or a label always stands beside it. */
export function Icon({ of: Glyph, size = 22, tone = 'ink' }: IconProps) {
  return <Glyph size={size} color={`var(--${tone})`} strokeWidth={1.75} aria-hidden />;
}
