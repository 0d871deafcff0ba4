/**
 * Decides what happens in a chat beside the talk itself: whether it is open, which ready questions and invitations are shown, what is asked
 * while somebody waits, how long that may take, and what becomes of a chat whose customer is gone.
 */
@NullMarked
package rafter.core.chat;

import org.jspecify.annotations.NullMarked;
