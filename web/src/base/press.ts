/** One key of the keypad on the text in hand. */
export function press(text: string, key: string): string {
  if (key === "⌫") return text.slice(0, -1);
  if (key === "±") return text.startsWith("-") ? text.slice(1) : `-${text}`;
  if (key === ">" || key === "<")
    return text.startsWith(key) ? text.slice(1) : key + text.replace(/^[<>]/, "");
  if (key === "OL") return "OL";
  if (text === "OL") return key;
  return text + key;
}
