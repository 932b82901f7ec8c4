'use client';
/** Comments of the proof: written on a page or at a line of it, answered, closed. */
import { useState } from 'react';
import { format } from 'date-fns';
import type { Comment, CommentAbout, Viewed } from '@pagina/core/proof';
import { Aside } from '@/ui/Aside';
import { Button } from '@/ui/Button';
import { Collapsible } from '@/ui/Collapsible';
import { input } from '@/ui/Field';
import type { Proofing } from './useProofing';

export function CommentsPane({
  what,
  draftKey,
  proofing,
  about,
  onWhole,
  labelOf,
  onGo,
  onClose,
}: {
  what: Viewed;
  /** Under which a comment that isn’t saved yet is kept in this browser. */
  draftKey: string;
  proofing: Proofing;
  /** What a comment written now is about; null while nothing is shown. */
  about: CommentAbout | null;
  /** Makes it about the page as a whole. */
  onWhole: () => void;
  /** Where a comment stands now; null where that is gone. */
  labelOf: (c: Comment) => string | null;
  onGo: (c: Comment) => void;
  onClose: () => void;
}) {
  const first = proofing.comments.filter((c) => c.answers === '');
  const [open, closed] = [first.filter((c) => c.closedAt === null), first.filter((c) => c.closedAt !== null)];
  const list = (comments: readonly Comment[], label: string) => (
    <ul aria-label={label}>
      {comments.map((c) => (
        <One key={c.id} of={c} what={what} proofing={proofing} label={labelOf(c)} onGo={() => onGo(c)} />
      ))}
    </ul>
  );
  return (
    <Aside title="Comments" onClose={onClose}>
      <div className="space-y-2 border-b border-rule px-4 py-3">
        {about ? (
          <>
            <p className="text-[13px] text-ink-soft" data-about>
              {what === 'page' ? `Page ${about.label}` : about.label}
              {about.quote ? (
                <>
                  , at “{about.quote.trim().slice(0, 80)}”{' '}
                  <button type="button" className="underline" onClick={onWhole}>
                    Comment on the whole {what}
                  </button>
                </>
              ) : what === 'section' ? (
                ''
              ) : (
                '. Click a line to comment on it.'
              )}
            </p>
            <Writing
              label="New comment"
              action="Add"
              draftKey={draftKey}
              onSave={(words) => proofing.comment(words, about)}
            />
          </>
        ) : null}
      </div>
      {first.length === 0 ? (
        <p className="px-4 py-3 text-ink-soft">
          No comments yet. A comment stays with its {what} until you close it.
        </p>
      ) : null}
      {list(open, 'Open comments')}
      {closed.length > 0 ? (
        <Collapsible heading={`Closed, ${closed.length}`} className="px-4 py-2">
          {list(closed, 'Closed comments')}
        </Collapsible>
      ) : null}
    </Aside>
  );
}

function One({
  of: c,
  what,
  proofing,
  label,
  onGo,
}: {
  of: Comment;
  what: Viewed;
  proofing: Proofing;
  label: string | null;
  onGo: () => void;
}) {
  const [answering, setAnswering] = useState(false);
  const answers = proofing.comments.filter((a) => a.answers === c.id);
  return (
    <li className="border-b border-rule px-4 py-2.5" data-comment={c.closedAt === null ? 'open' : 'closed'}>
      <button
        type="button"
        className="text-left text-[13px] text-ink-soft underline disabled:no-underline"
        disabled={label === null}
        onClick={onGo}
      >
        {label === null
          ? `${what === 'page' ? `Page ${c.about.label}` : c.about.label} (no longer there)`
          : what === 'page'
            ? `Page ${label}`
            : label}
      </button>
      {c.about.quote ? (
        <p className="truncate font-serif text-[13px] text-ink-soft">“{c.about.quote.trim()}”</p>
      ) : null}
      <p className="whitespace-pre-wrap">{c.words}</p>
      <p className="text-[12px] text-ink-soft">
        {c.actor}, {format(c.at, 'd MMM, HH:mm')}
      </p>
      {answers.map((a) => (
        <div key={a.id} className="mt-1.5 border-l border-rule pl-3">
          <p className="whitespace-pre-wrap">{a.words}</p>
          <p className="text-[12px] text-ink-soft">
            {a.actor}, {format(a.at, 'd MMM, HH:mm')}
          </p>
        </div>
      ))}
      {answering ? (
        <div className="mt-2">
          <Writing
            label="Answer"
            action="Answer"
            draftKey={`comment-answer/${c.id}`}
            onSave={async (words) => {
              const saved = await proofing.comment(words, c.about, c.id);
              if (saved) setAnswering(false);
              return saved;
            }}
          />
        </div>
      ) : (
        <div className="mt-1.5 flex gap-2">
          {c.closedAt === null ? (
            <Button kind="quiet" className="-ml-2 h-7 px-2" onClick={() => setAnswering(true)}>
              Answer
            </Button>
          ) : null}
          <Button
            kind="quiet"
            className={`h-7 px-2 ${c.closedAt === null ? '' : '-ml-2'}`}
            onClick={() => void proofing.close(c.id, c.closedAt === null)}
          >
            {c.closedAt === null ? 'Close comment' : 'Open again'}
          </Button>
        </div>
      )}
    </li>
  );
}

/** A field whose words stay until they are saved, over reloads too. */
function Writing({
  label,
  action,
  draftKey,
  onSave,
}: {
  label: string;
  action: string;
  draftKey: string;
  onSave: (words: string) => Promise<boolean>;
}) {
  const [words, setWords] = useState(() => localStorage.getItem(draftKey) ?? '');
  const [saving, setSaving] = useState(false);
  const write = (w: string): void => {
    setWords(w);
    if (w === '') localStorage.removeItem(draftKey);
    else localStorage.setItem(draftKey, w);
  };
  const save = async (): Promise<void> => {
    if (words.trim() === '' || saving) return;
    setSaving(true);
    if (await onSave(words.trim())) write('');
    setSaving(false);
  };
  return (
    <div className="space-y-1.5">
      <textarea
        aria-label={label}
        rows={3}
        maxLength={5000}
        className={`${input} h-auto py-1.5`}
        value={words}
        onChange={(e) => write(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === 'Enter' && (e.ctrlKey || e.metaKey)) void save();
        }}
      />
      <Button
        className="h-7 px-2"
        disabled={words.trim() === '' || saving}
        tip="Ctrl+Enter"
        onClick={() => void save()}
      >
        {action}
      </Button>
    </div>
  );
}
