package rafter.outside.demo;

import java.util.List;

/** What people ask a ferry line. */
final class Stories {

    private static final String HELP = "help@ternpassage.example";
    private static final String FREIGHT = "freight@ternpassage.example";

    static final List<Story> ALL = List.of(
            story(
                    "Freight slot for {day} shows as cancelled",
                    true,
                    FREIGHT,
                    "freight slots",
                    "booking",
                    "P1",
                    true,
                    List.of(
                            "Morning.\n\nThe office told me the trailer is on for {day}, but the booking page still says cancelled, and my driver will be turned away at the ramp. Booking {booking}. Can someone confirm in writing before noon?",
                            "Thank you. The page still says cancelled here. Does my driver need anything else at the ramp?",
                            "He is through. Thanks for the quick help."),
                    List.of(
                            "Hello {first},\n\nyour trailer is confirmed on {vessel}, lane 4, {day} 06:10. The booking page will catch up overnight.",
                            "Hello {first},\n\nhe only needs the number {booking}. I have told the ramp."),
                    "Freight office re-issued the slot under the old vessel code. The page reads the old code, so it shows cancelled. They can force it."),
            story(
                    "Trailer two metres longer than booked",
                    true,
                    FREIGHT,
                    "freight slots",
                    "booking",
                    "P2",
                    false,
                    List.of(
                            "Hello,\n\nwe booked 14 m for {day} to {town} but the trailer that is coming is 16 m. Can you change {booking} or do we need a new slot?",
                            "Please go ahead with the longer one."),
                    List.of(
                            "Hello {first},\n\nthere is room for 16 m on {vessel}. The difference goes on your monthly invoice. Shall I change it?",
                            "Changed. Your booking number stays {booking}."),
                    ""),
            story(
                    "Refrigerated unit: power on board?",
                    true,
                    FREIGHT,
                    "freight slots",
                    "reefer",
                    "P3",
                    false,
                    List.of(
                            "Do all sailings to {town} have power for refrigerated units? Last week on {vessel} the driver was told there was none."),
                    List.of(
                            "Hello {first},\n\nboth vessels have twelve sockets on deck 2. Ask for one when booking, then the deck crew keeps it for you."),
                    ""),
            story(
                    "Invoice {invoice} has the old address",
                    true,
                    HELP,
                    "billing",
                    "invoice",
                    "P3",
                    false,
                    List.of(
                            "Invoice {invoice} still has our old address on it, and our bookkeeping sends it back. Could you issue it again with the new one?\n\n-- \n{name}\n{firm}",
                            "That is the right one now, thank you."),
                    List.of(
                            "Hello {first},\n\na corrected invoice is attached to your account under the same number. Sorry for the trouble."),
                    ""),
            story(
                    "Standing order of slots for the season",
                    true,
                    FREIGHT,
                    "freight slots",
                    "schedule",
                    "P3",
                    true,
                    List.of(
                            "We would like two slots each {day} to {town} until the end of March. What would the rate be, and can you hold them for us?",
                            "That works for us. Please hold them.",
                            "One more thing: can we skip the holiday week?"),
                    List.of(
                            "Hello {first},\n\nI have asked the harbour office to hold two slots. They answer by tomorrow, and I will send you the rate then.",
                            "Hello {first},\n\nboth are held for you from next week on.",
                            "Of course. I took that week out."),
                    "Harbour office wants the list of weeks in writing."),
            story(
                    "School group of {n}, sailing moved by the harbour office",
                    true,
                    HELP,
                    "groups",
                    "group",
                    "P2",
                    true,
                    List.of(
                            "We have {n} pupils on the {time} to {town} on {day}, and I read that the sailing is moved. Our coach leaves at eight. What now?",
                            "The later sailing is fine if lunch can be moved too."),
                    List.of(
                            "Hello {first},\n\nI have asked the harbour office for the new time and will write as soon as they confirm.",
                            "Hello {first},\n\nthe sailing now leaves at 11:10, and lunch is moved to 12:00 for all of you."),
                    "Asked the harbour office. They are slow on Mondays."),
            story(
                    "Group rate for {n} people",
                    false,
                    HELP,
                    "groups",
                    "group",
                    "P3",
                    false,
                    List.of(
                            "Hello! We are {n} people and want to go to {town} and back on {day}. Is there a group rate, and do we need to choose the sailings now?",
                            "Perfect, then we take the {time}."),
                    List.of(
                            "Hello {first},\n\nfrom ten people on you pay the group rate, one fifth less. Sailings can be changed until the evening before.",
                            "Booked. Your number is {booking}."),
                    ""),
            story(
                    "Wheelchair boarding at Skelby on the {time}",
                    false,
                    HELP,
                    "access",
                    "assistance",
                    "P1",
                    false,
                    List.of(
                            "My mother uses a wheelchair and we are on the {time} from Skelby on {day}. The lift at the quay was out of order last time. Is it working now, and who do we ask on the day?",
                            "Thank you so much, that is a relief."),
                    List.of(
                            "Hello {first},\n\nthe lift works again. Come to gate 2 half an hour before; the crew of {vessel} knows and will meet you there."),
                    "Told gate 2 by phone."),
            story(
                    "Assistance dog on {vessel}",
                    false,
                    HELP,
                    "access",
                    "assistance",
                    "P3",
                    false,
                    List.of("Can my assistance dog come with me to the cabin on {vessel}, or only on deck?"),
                    List.of("Hello {first},\n\nassistance dogs may go everywhere with you, the restaurant too."),
                    ""),
            story(
                    "Charged twice for a season pass",
                    false,
                    HELP,
                    "billing",
                    "refund",
                    "P2",
                    false,
                    List.of(
                            "I bought a season pass on {day} and my bank shows the amount two times. Please give one back.",
                            "It is the card ending in 4410.",
                            "The money is here. Thanks."),
                    List.of(
                            "Hello {first},\n\nI see two payments a minute apart. Which card did you use? Its last four digits are enough.",
                            "Hello {first},\n\none of the two goes back to your card today. Banks take up to four days."),
                    ""),
            story(
                    "Gate scanner rejects my renewed pass",
                    false,
                    HELP,
                    "passes",
                    "gate",
                    "P3",
                    false,
                    List.of(
                            "Since I renewed my pass the gate at {town} stays shut, and I have to be waved through every morning. Pass number {invoice}.",
                            "Works again!"),
                    List.of(
                            "Hello {first},\n\nyour pass had kept its old end date in the gate. I have sent it the new one; please try tomorrow."),
                    "Old end date in the gate, known fault."),
            story(
                    "Name on the pass is spelled wrong",
                    false,
                    HELP,
                    "passes",
                    "pass",
                    "P4",
                    false,
                    List.of("My pass says a different name, one letter is wrong. Do I need a new one?"),
                    List.of(
                            "Hello {first},\n\nyes, but it costs nothing. The new one comes by post this week; keep the old one until then."),
                    ""),
            story(
                    "Is the late boat running on the {date}?",
                    false,
                    HELP,
                    "timetable",
                    "timetable",
                    "P4",
                    false,
                    List.of(
                            "Is the late boat from {town} running on the {date}? The timetable has a little star that I cannot find explained."),
                    List.of("Hello {first},\n\nit is. The star means that it calls at Vessa first."),
                    ""),
            story(
                    "Missed the connection at {town}",
                    false,
                    HELP,
                    "timetable",
                    "delay",
                    "P3",
                    false,
                    List.of(
                            "The {time} was forty minutes late on {day} and the last bus was gone. I paid 62 for a taxi. Do you pay that back?",
                            "Receipt attached.",
                            "That was quick. Thank you!"),
                    List.of(
                            "Hello {first},\n\nI am sorry. When the last connection is lost through us, we pay a taxi up to 80. Please send me the receipt.",
                            "Hello {first},\n\nthank you, 62 is on its way to your account."),
                    ""),
            story(
                    "Change of date for booking {booking}",
                    false,
                    HELP,
                    "bookings",
                    "booking",
                    "P3",
                    false,
                    List.of("Can I move {booking} from {day} to a week later? Two people and a small car."),
                    List.of(
                            "Hello {first},\n\nit is moved to the same time a week later. There is no fee as it is more than a day ahead."),
                    ""),
            story(
                    "Booking confirmation never came",
                    false,
                    HELP,
                    "bookings",
                    "booking",
                    "P3",
                    false,
                    List.of(
                            "I booked for {day} an hour ago and no confirmation came. Did it work? I do not want to book twice.",
                            "It was in the spam folder, sorry."),
                    List.of(
                            "Hello {first},\n\nyou are booked, number {booking}. I have sent the confirmation once more."),
                    ""),
            story(
                    "Car is 2.1 m high with the roof box",
                    false,
                    HELP,
                    "bookings",
                    "vehicle",
                    "P3",
                    false,
                    List.of(
                            "Our car has a roof box and is 2.1 m high now. We booked a normal car on the {time}. Does it fit?"),
                    List.of("Hello {first},\n\nup to 2.2 m is a normal car with us. Nothing to change."),
                    ""),
            story(
                    "Lost instrument case, blue, deck 3",
                    false,
                    HELP,
                    "lost items",
                    "lost",
                    "P3",
                    false,
                    List.of(
                            "I left a blue instrument case on deck 3 of {vessel} on {day}, near the stairs. It has a sticker of a heron on it.",
                            "Yes, that is the one! Where can I pick it up?",
                            "Got it, you are wonderful."),
                    List.of(
                            "Hello {first},\n\nI have asked the crew to look. Is there anything in it that tells it from others?",
                            "Hello {first},\n\nit is at the counter in {town}, open from eight to five. Bring something with your name on it."),
                    "Crew found a blue case, number 318 in the store room."),
            story(
                    "Umbrella left on the {time}",
                    false,
                    HELP,
                    "lost items",
                    "lost",
                    "P4",
                    false,
                    List.of(
                            "A long green umbrella, wooden handle, on the {time} from {town}. Is it with you by any chance?"),
                    List.of(
                            "Hello {first},\n\nno umbrella like that has come in so far. I keep your request and write when it does."),
                    ""),
            story(
                    "Child’s jacket left in the play corner",
                    false,
                    HELP,
                    "lost items",
                    "lost",
                    "P3",
                    false,
                    List.of(
                            "Our daughter left her red jacket in the play corner of {vessel} on {day}. Size 116.",
                            "Yes please, by post."),
                    List.of("Hello {first},\n\nit is here! Shall we send it by post?", "It goes out today."),
                    ""),
            story(
                    "Engine-room noise in the quiet lounge",
                    false,
                    HELP,
                    "on board",
                    "lounge",
                    "P4",
                    false,
                    List.of(
                            "The quiet lounge of {vessel} is not quiet at all, a constant hum since about two weeks. Are you aware?"),
                    List.of("Hello {first},\n\nthank you, we were not. The engineer looks at it on the next lay day."),
                    ""),
            story(
                    "Wi-Fi drops between Vessa and North Quill",
                    false,
                    HELP,
                    "on board",
                    "wifi",
                    "P3",
                    true,
                    List.of(
                            "The Wi-Fi on {vessel} drops each time between Vessa and North Quill. I work on board and need it.",
                            "Still the same today on the {time}."),
                    List.of(
                            "Hello {first},\n\nthat stretch has a weak mast. I have asked the provider when it will be mended.",
                            "Hello {first},\n\nthe provider changes the antenna next week. I will write when it is done."),
                    "Provider has it as a known fault."),
            story(
                    "Meal voucher not accepted",
                    false,
                    HELP,
                    "on board",
                    "voucher",
                    "P3",
                    false,
                    List.of(
                            "After the delay on {day} we got meal vouchers, and the counter on {vessel} did not take them. We paid 31 ourselves."),
                    List.of("Hello {first},\n\nthat should not have happened. I have paid the 31 back to your card."),
                    ""));

    private Stories() {}

    private static Story story(
            String subject,
            boolean firms,
            String mailbox,
            String topic,
            String tag,
            String priority,
            boolean partner,
            List<String> asks,
            List<String> answers,
            String note) {
        return new Story(subject, firms, mailbox, topic, List.of(tag), priority, partner, asks, answers, note);
    }
}
