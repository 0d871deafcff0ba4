/** The phrasebook: saved pieces of what is written, and how a reply begins and ends. */
@NullMarked
package rafter.app.tickets.phrases;

import org.jspecify.annotations.NullMarked;
