package rafter.app.tickets.page;

import java.util.List;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Viewer;
import rafter.app.tickets.acts.HandOutDesk;
import rafter.app.tickets.acts.RoomDesk;
import rafter.app.tickets.acts.Traces;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.Turn;

/** Where a ticket waits for somebody, and what it needs, asked for only while it can wait; and the rooms beside it. */
@Component
class Waits {

    private final ObjectProvider<HandOutDesk> desk;
    private final ObjectProvider<RoomDesk> rooms;

    Waits(ObjectProvider<HandOutDesk> desk, ObjectProvider<RoomDesk> rooms) {
        this.rooms = rooms;
        this.desk = desk;
    }

    private static boolean waits(Ticket ticket) {
        return ticket.open() && ticket.owner().isEmpty() && ticket.turn() == Turn.OURS;
    }

    HandOutDesk.Waiting of(TicketNumber number, Ticket ticket, Viewer me) {
        return waits(ticket)
                ? desk.stream().findFirst().map(one -> one.waiting(number, me)).orElse(HandOutDesk.Waiting.NOWHERE)
                : HandOutDesk.Waiting.NOWHERE;
    }

    List<RoomDesk.Room> rooms(TicketNumber number, Traces.Found traces, Viewer me) {
        return traces.may(RoomDesk.TRACE)
                ? rooms.stream().flatMap(one -> one.rooms(number, me).stream()).toList()
                : List.of();
    }
}
