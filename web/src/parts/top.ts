import { useLayoutEffect, useRef, useState } from "react";

/** How far down the page something begins, for what is drawn only where the page is seen. */
export function useTop<Part extends HTMLElement>() {
  const part = useRef<Part>(null);
  const [top, setTop] = useState(0);
  // after every drawing, since what stands above may grow and shrink
  // eslint-disable-next-line react-hooks/exhaustive-deps -- it ends by itself: a place that stays is not set again
  useLayoutEffect(() => {
    const found = part.current ? part.current.getBoundingClientRect().top + scrollY : 0;
    setTop((old) => (Math.abs(found - old) > 1 ? found : old));
  });
  return { part, top };
}
