/** What takes letters as they are: a line of text, or several. A radio, a tick, a button are no texts. */
export type TextField = HTMLInputElement | HTMLTextAreaElement;

const NO_TEXTS = ["radio", "checkbox", "button"];

export const isText = (target: EventTarget | null): target is TextField =>
  target instanceof HTMLTextAreaElement || (target instanceof HTMLInputElement && !NO_TEXTS.includes(target.type));
