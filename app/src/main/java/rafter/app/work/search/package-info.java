/** Finding tickets, messages, contacts and companies by what is in them. */
@NullMarked
package rafter.app.work.search;

import org.jspecify.annotations.NullMarked;
