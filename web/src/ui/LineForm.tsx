'use client';
/** One line and the button that sends it. What is wrong with it is said below, by the schema that the server uses too. */
import { zodResolver } from '@hookform/resolvers/zod';
import { useId, useMemo, type ReactNode } from 'react';
import { useForm } from 'react-hook-form';
import * as z from 'zod';
import { Button } from './Button';
import { input, Wrong } from './Field';

export function LineForm({
  label,
  schema,
  action,
  onSend,
  value = '',
  placeholder,
  heading,
  hint,
  optional = false,
  asItCame = false,
  primary = false,
  secret = false,
  autoFocus,
  maxLength,
  className = '',
}: {
  label: string;
  schema: z.ZodType<string, string>;
  /** The words on the button. */
  action: string;
  /** Answers whether it was taken; the line is emptied then. */
  onSend: (line: string) => Promise<boolean>;
  value?: string;
  placeholder?: string;
  /** The label in sight above the line; otherwise it is only spoken. */
  heading?: boolean;
  /** Said of what stands in the line while it is right. */
  hint?: (line: string) => ReactNode;
  /** Whether an empty line can be sent. */
  optional?: boolean;
  /** Whether it can be sent unchanged. */
  asItCame?: boolean;
  primary?: boolean;
  /** A line that nobody looks over one's shoulder at. */
  secret?: boolean;
  autoFocus?: boolean;
  maxLength?: number;
  className?: string;
}) {
  const resolver = useMemo(() => zodResolver(z.object({ line: schema })), [schema]);
  const { register, handleSubmit, reset, watch, formState } = useForm({
    resolver,
    mode: 'onChange',
    values: { line: value },
  });
  const note = useId();
  const field = useId();
  const line = watch('line');
  const wrong = line.trim() === '' && !optional ? undefined : formState.errors.line?.message;
  const below = wrong ? (
    <Wrong id={note}>{wrong}</Wrong>
  ) : hint ? (
    <span id={note} className="mt-1 block text-[13px] text-ink-soft">
      {hint(line)}
    </span>
  ) : null;
  return (
    <form
      noValidate
      className={className}
      onSubmit={(e) => {
        e.stopPropagation();
        void handleSubmit(async (sent) => {
          if (await onSend(sent.line)) reset({ line: value });
        })(e);
      }}
    >
      <label htmlFor={field} className={heading ? 'column-head mb-1 block' : 'sr-only'}>
        {label}
      </label>
      <span className="flex gap-2">
        <input
          id={field}
          {...register('line')}
          type={secret ? 'password' : 'text'}
          autoComplete="off"
          aria-invalid={wrong ? true : undefined}
          aria-describedby={below ? note : undefined}
          className={input}
          placeholder={placeholder}
          autoFocus={autoFocus}
          maxLength={maxLength}
          spellCheck={false}
        />
        <Button
          type="submit"
          kind={primary ? 'primary' : 'plain'}
          disabled={formState.isSubmitting || !formState.isValid || (line === value && !asItCame)}
        >
          {action}
        </Button>
      </span>
      {below}
    </form>
  );
}
