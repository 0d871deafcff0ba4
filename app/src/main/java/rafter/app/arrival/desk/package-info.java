/** The desk at which somebody of ours answers several chats side by side. */
@NullMarked
package rafter.app.arrival.desk;

import org.jspecify.annotations.NullMarked;
