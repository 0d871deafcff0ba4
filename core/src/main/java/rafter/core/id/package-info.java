/** By what tickets, people, teams, contacts, companies and entries are known. */
@NullMarked
package rafter.core.id;

import org.jspecify.annotations.NullMarked;
