/** What an administrator sets. */
@NullMarked
package rafter.app.house.rules;

import org.jspecify.annotations.NullMarked;
