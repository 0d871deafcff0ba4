/** Who can take what: skills, who is here, and how much each takes at once. */
@NullMarked
package rafter.app.handout.people;

import org.jspecify.annotations.NullMarked;
