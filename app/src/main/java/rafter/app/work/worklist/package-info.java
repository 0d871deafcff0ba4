/** The list an agent looks at all day. */
@NullMarked
package rafter.app.work.worklist;

import org.jspecify.annotations.NullMarked;
