import type { ComponentProps } from "react";

const LOOKS = {
  /** What one comes to do. */
  press: "press",
  /** What one may do besides. */
  quiet: "quiet",
  /** In a line of text. */
  link: "underline underline-offset-2",
};

/** The one button there is; it never sends a form unless it says so. */
export function Button({
  look = "quiet",
  className = "",
  type = "button",
  ...rest
}: ComponentProps<"button"> & { look?: keyof typeof LOOKS }) {
  return <button type={type} className={`${LOOKS[look]} ${className}`} {...rest} />;
}
