/** What takes the keyboard while it is open: dialogs, lists, menus. */
export const COVERS = '[role=dialog], [role=listbox], [role=menu]';

/** Whether something is open that has the keyboard. */
export const isCovered = (): boolean => document.querySelector(COVERS) !== null;
