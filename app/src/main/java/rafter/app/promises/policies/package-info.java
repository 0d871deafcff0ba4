/** The pages on which administrators say what is promised to whom, rehearse it, and put it into force. */
@NullMarked
package rafter.app.promises.policies;

import org.jspecify.annotations.NullMarked;
