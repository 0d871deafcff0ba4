package rafter.app.platform;

import io.github.bucket4j.BucketConfiguration;
import io.github.bucket4j.TimeMeter;
import io.github.bucket4j.distributed.BucketProxy;
import io.github.bucket4j.distributed.ExpirationAfterWriteStrategy;
import io.github.bucket4j.distributed.jdbc.PrimaryKeyMapper;
import io.github.bucket4j.postgresql.Bucket4jPostgreSQL;
import io.github.bucket4j.postgresql.PostgreSQLSelectForUpdateBasedProxyManager;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HexFormat;
import java.util.Locale;
import javax.sql.DataSource;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/**
 * How often strangers may do something, counted in the database for all nodes together: some times at once, then once each so long. Whoever
 * asks for more waits; nobody is locked out for good. Memory is bounded, for what is full again is forgotten.
 */
@Component
public class Limits {

    /**
     * A limit.
     *
     * @param name tells it from others
     * @param atOnce so many times without waiting
     * @param each then once in such a time
     */
    public record Limit(String name, int atOnce, Duration each) {
        private BucketConfiguration configuration() {
            return BucketConfiguration.builder()
                    .addLimit(limit -> limit.capacity(atOnce).refillGreedy(1, each))
                    .build();
        }
    }

    private static final int FORGOTTEN_AT_ONCE = 1000;

    private final PostgreSQLSelectForUpdateBasedProxyManager<String> buckets;

    Limits(DataSource database, Clock clock) {
        this.buckets = Bucket4jPostgreSQL.selectForUpdateBasedBuilder(database)
                .primaryKeyMapper(PrimaryKeyMapper.STRING)
                .table("rate_limit")
                .expirationAfterWrite(
                        ExpirationAfterWriteStrategy.basedOnTimeForRefillingBucketUpToMax(Duration.ofMinutes(1)))
                .clientClock(meter(clock))
                .build();
    }

    private static TimeMeter meter(Clock clock) {
        return new TimeMeter() {
            @Override
            public long currentTimeNanos() {
                Instant now = clock.instant();
                return now.getEpochSecond() * 1_000_000_000L + now.getNano();
            }

            @Override
            public boolean isWallClockBased() {
                return true;
            }
        };
    }

    /**
     * How long somebody has to wait until they may do it once more; zero: they may do it now.
     *
     * @param who letter case aside; of any length, and kept as a digest
     */
    public Duration wait(Limit limit, String who) {
        return Duration.ofNanos(bucket(limit, who).estimateAbilityToConsume(1).getNanosToWaitForRefill());
    }

    /** Counts that somebody did it. */
    public void count(Limit limit, String who) {
        bucket(limit, who).tryConsume(1);
    }

    /** Begins anew for somebody. */
    public void forget(Limit limit, String who) {
        buckets.removeProxy(key(limit, who));
    }

    private BucketProxy bucket(Limit limit, String who) {
        return buckets.builder().build(key(limit, who), limit::configuration);
    }

    private static String key(Limit limit, String who) {
        byte[] digest = Files.sha256(who.strip().toLowerCase(Locale.ROOT).getBytes(StandardCharsets.UTF_8));
        return limit.name() + ":" + HexFormat.of().formatHex(digest);
    }

    /** Forgets what is full again. */
    @Scheduled(fixedRate = 60_000)
    public int forgetFull() {
        int all = 0;
        int some;
        do {
            some = buckets.removeExpired(FORGOTTEN_AT_ONCE);
            all += some;
        } while (some == FORGOTTEN_AT_ONCE);
        return all;
    }
}
