import type { ReactNode } from 'react';
import { FileTrigger } from 'react-aria-components';
import { Button, type ButtonProps } from './button.tsx';

export interface FileButtonProps extends Pick<ButtonProps, 'tone' | 'size' | 'isDisabled'> {
  accept: readonly string[];
  onFile: (file: File) => void;
  children: ReactNode;
}

/** Asks for one file. */
export function FileButton({ accept, onFile, children, ...button }: FileButtonProps) {
  return (
    <FileTrigger
      acceptedFileTypes={[...accept]}
      onSelect={(files) => {
        const file = files?.item(0);
        if (file) onFile(file);
      }}
    >
      <Button {...button}>{children}</Button>
    </FileTrigger>
  );
}
