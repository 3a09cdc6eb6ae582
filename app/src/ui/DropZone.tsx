import { useEffect, type ReactNode } from 'react';
import { useDropzone } from 'react-dropzone';
import { useTokens } from './theme';
import { useSay } from './words/words';

export interface DropZoneProps {
  onFiles: (files: readonly File[]) => void;
  children: (open: () => void) => ReactNode;
}

/** Takes files by drop and paste anywhere within it, and opens the file dialog. What a file is worth is judged by its bytes, later. */
export function DropZone({ onFiles, children }: DropZoneProps) {
  const t = useTokens();
  const say = useSay();
  const { getRootProps, getInputProps, open, isDragActive } = useDropzone({
    noClick: true,
    noKeyboard: true,
    onDrop: (accepted, rejected) => onFiles([...accepted, ...rejected.map((r) => r.file)]),
  });
  useEffect(() => {
    const paste = (event: ClipboardEvent) => {
      const files = [...(event.clipboardData?.files ?? [])];
      if (!files.length) return;
      event.preventDefault();
      onFiles(files);
    };
    window.addEventListener('paste', paste);
    return () => window.removeEventListener('paste', paste);
  }, [onFiles]);
  return (
    <div
      {...getRootProps()}
      style={{
        display: 'flex',
        flexDirection: 'column',
        flex: 1,
        minHeight: 0,
        outline: isDragActive ? `2px dashed ${t.wine}` : 'none',
        outlineOffset: -6,
      }}
    >
      <input {...getInputProps()} aria-label={say('bringIn.input')} data-testid="file-input" />
      {children(open)}
    </div>
  );
}
