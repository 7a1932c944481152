/** Where a menu opens, in the window's pixels. */
export interface MenuPlace {
  x: number;
  y: number;
}

/** Under the button that was pressed. */
export const belowButton = (button: Element): MenuPlace => {
  const box = button.getBoundingClientRect();
  return { x: box.left, y: box.bottom };
};
