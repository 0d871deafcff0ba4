package rafter.outside.demo;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import rafter.outside.Letter;

/** Mail that nobody asked for, as every address gets it. */
final class Offers {

    private static final List<String> SUBJECTS = List.of(
            "Grow your bookings by {n}%",
            "Quick question about your website ranking",
            "Last chance: {n}% off printed flags",
            "Your domain is about to lose its ranking",
            "Loan approved for your business",
            "Increase your followers in {n} days",
            "Partnership offer for ferry lines");
    private static final List<String> BODIES = List.of(
            "Dear owner,\n\nwe looked at your website and found {n} faults that cost you ranking. Our experts bring you to the first page, guaranteed. Reply for a free quote.\n\nTo unsubscribe click here: https://offers.example/off",
            "Hi there,\n\nour marketing experts deliver guaranteed leads at the best price. Only {n} places left. Click https://leads.example/now and claim your bonus today.",
            "Hello business owner,\n\nyour loan of {n}000 is approved. No papers, best interest, instant payment. Claim your offer: https://money.example/claim\n\nUnsubscribe: https://money.example/off",
            "Dear sir or madam,\n\nbuy followers and reviews for your business. {n} days to success, guaranteed or money back. Special offer, discount ends today.\n\nhttps://followers.example/best");
    private static final List<String> SENDERS =
            List.of("seo-tide.example", "best-leads.example", "quick-loan.example", "flags-discount.example");

    private final Random random;

    Offers(Random random) {
        this.random = random;
    }

    /** One of them. */
    Letter next(String to, Instant at) {
        String number = Integer.toString(10 + random.nextInt(80));
        return new Letter(
                "Sales team",
                "sales" + random.nextInt(40) + "@" + Telling.pick(SENDERS, random),
                to,
                "",
                Telling.pick(SUBJECTS, random).replace("{n}", number),
                Telling.pick(BODIES, random).replace("{n}", number),
                Optional.empty(),
                List.of(),
                List.of(),
                at);
    }
}
