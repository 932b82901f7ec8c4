'use client';
/** Files dropped on a surface or chosen with a button. The reader judges what they are, since it can say why not. */
import { useDropzone } from 'react-dropzone';
import type { ReactNode } from 'react';
import { Button } from './Button';

/** A surface on which files can be dropped; text and rows that are dragged over it are no files. */
export function DropSurface({
  onFiles,
  className = '',
  children,
}: {
  onFiles: (files: File[]) => void;
  className?: string;
  /** May show that a file is over it. */
  children: ReactNode | ((over: boolean) => ReactNode);
}) {
  const { getRootProps, isDragActive } = useDropzone({
    noClick: true,
    noKeyboard: true,
    onDrop: (files) => files.length > 0 && onFiles(files),
  });
  return (
    <div {...getRootProps({ className, role: undefined, tabIndex: undefined })}>
      {typeof children === 'function' ? children(isDragActive) : children}
    </div>
  );
}

interface Chooser {
  /** What the file is, for those who cannot see what surrounds it. */
  label: string;
  /** Endings or media types that are offered first. */
  endings: readonly string[];
  several?: boolean;
  onFiles: (files: File[]) => void;
}

/** Opens the system's own window for choosing files; its field is to stand somewhere in the page. */
export function useFileChooser({ label, endings, several = false, onFiles }: Chooser): {
  field: ReactNode;
  open: () => void;
} {
  const { getInputProps, open } = useDropzone({
    noDrag: true,
    multiple: several,
    onDrop: (files) => files.length > 0 && onFiles(files),
  });
  return {
    field: <input {...getInputProps({ 'aria-label': label, accept: endings.join(',') })} />,
    open,
  };
}

export function FileButton({
  kind,
  className,
  children,
  ...chooser
}: Chooser & { kind?: 'primary' | 'plain' | 'quiet'; className?: string; children: ReactNode }) {
  const { field, open } = useFileChooser(chooser);
  return (
    <>
      <Button kind={kind} className={className} onClick={open}>
        {children}
      </Button>
      {field}
    </>
  );
}
