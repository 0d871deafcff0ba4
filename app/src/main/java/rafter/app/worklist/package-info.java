/** The list an agent looks at all day. */
@NullMarked
package rafter.app.worklist;

import org.jspecify.annotations.NullMarked;
