/** Acting on many tickets at once, in the background, with progress, reasons for what failed, and undo. */
@NullMarked
package rafter.app.work.batches;

import org.jspecify.annotations.NullMarked;
