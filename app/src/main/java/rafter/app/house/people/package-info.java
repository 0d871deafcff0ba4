/** Who writes to us: contacts and the companies they belong to. */
@NullMarked
package rafter.app.house.people;

import org.jspecify.annotations.NullMarked;
