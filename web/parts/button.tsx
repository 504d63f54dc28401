import type { ButtonHTMLAttributes, ReactNode } from 'react';

type Look = 'primary' | 'plain' | 'quiet' | 'danger';

const looks: Record<Look, string> = {
  primary: 'bg-pine text-white hover:bg-pine/90 disabled:bg-ink-2/50',
  plain: 'bg-paper border border-line text-ink hover:bg-paper-2 disabled:text-ink-2/60',
  quiet: 'text-ink hover:bg-paper-2 disabled:text-ink-2/50',
  danger: 'text-brick hover:bg-paper-2',
};

interface ButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  look?: Look;
  icon?: ReactNode;
}

export function Button({ look = 'plain', icon, children, className = '', ...rest }: ButtonProps) {
  return (
    <button
      type="button"
      className={`inline-flex h-8 shrink-0 items-center justify-center gap-1.5 rounded-md px-3 text-[13px] font-medium whitespace-nowrap ${looks[look]} ${className}`}
      {...rest}
    >
      {icon}
      {children}
    </button>
  );
}

interface IconButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  /** Name for screen readers and the tooltip. */
  label: string;
  shortcut?: string;
  pressed?: boolean;
}

export function IconButton({ label, shortcut, pressed, title, children, className = '', ...rest }: IconButtonProps) {
  return (
    <button
      type="button"
      aria-label={label}
      aria-pressed={pressed}
      title={title ?? (shortcut ? `${label} (${shortcut})` : label)}
      className={`inline-flex size-7 shrink-0 items-center justify-center rounded-md hover:bg-paper-2 disabled:text-ink-2/40 ${pressed ? 'bg-paper-2 text-pine' : 'text-ink'} ${className}`}
      {...rest}
    >
      {children}
    </button>
  );
}
