/** What an administrator sets. */
@NullMarked
package rafter.app.houserules;

import org.jspecify.annotations.NullMarked;
