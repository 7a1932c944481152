/** The look that menus share, whether they open from a button or a right click. */
export const MENU = 'z-50 min-w-44 rounded-md border border-strong bg-surface py-1 shadow-md';
export const MENU_ITEM = 'flex cursor-default items-center justify-between gap-6 px-3 py-1 outline-none data-[disabled]:opacity-45 data-[highlighted]:bg-sunk';
export const MENU_RULE = 'my-1 h-px bg-line';
