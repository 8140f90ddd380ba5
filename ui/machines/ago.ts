import { formatDistanceToNow } from "date-fns";

/** "3 hours ago". */
export function ago(at: string): string {
  return formatDistanceToNow(new Date(at), { addSuffix: true });
}
