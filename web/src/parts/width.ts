import { useLayoutEffect, useState } from "react";

/** A ref for an element, and how wide that is in pixels; 0 before it is there. */
export function useWidth(): [(element: HTMLElement | null) => void, number] {
  const [element, setElement] = useState<HTMLElement | null>(null);
  const [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    if (!element) return;
    const look = () => setWidth(element.clientWidth);
    const observer = new ResizeObserver(look);
    observer.observe(element);
    look();
    return () => observer.disconnect();
  }, [element]);
  return [setElement, width];
}
