package rafter.core.text;

/**
 * A plain-text message taken apart. Joined together the three are the message again, but for blank lines between them.
 *
 * @param own what its author wrote this time
 * @param signature the closing block, from its mark on; may be empty
 * @param quoted the earlier messages that it carries along, from the line that introduces them on; may be empty
 */
public record ReplyParts(String own, String signature, String quoted) {}
