import { notifications } from "@mantine/notifications";

/** Says briefly that something is done. */
export function say(title: string, message: string) {
  notifications.show({ title, message, closeButtonProps: { "aria-label": "Dismiss" } });
}
