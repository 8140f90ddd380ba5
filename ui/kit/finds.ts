/** Whether a text has every word that was typed into a find field; an empty field finds all. */
export function finder(typed: string): (text: string) => boolean {
  const words = typed.trim().toLowerCase().split(/\s+/);
  return (text) => {
    const said = text.toLowerCase();
    return words.every((word) => said.includes(word));
  };
}
