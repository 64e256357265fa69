import { type RefObject, useEffect, useRef, useState } from 'react';

/** The width of an element in px as it is laid out, so that a picture is drawn for it and its letters keep their size. */
export function useWidth<Of extends HTMLElement>(before: number): [RefObject<Of | null>, number] {
  const element = useRef<Of>(null);
  const [width, setWidth] = useState(before);
  useEffect(() => {
    const { current } = element;
    if (!current) return undefined;
    const observer = new ResizeObserver(([entry]) => {
      if (entry && entry.contentRect.width > 0) setWidth(Math.round(entry.contentRect.width));
    });
    observer.observe(current);
    return () => {
      observer.disconnect();
    };
  }, []);
  return [element, width];
}
