package pantry.library;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.base.Timestamps;
import pantry.testing.WithWorkshop;

class ReservationsTest extends WithWorkshop {
    private static final Instant MORNING = Instant.parse("2026-03-01T08:00:00Z");

    private Asset mast;
    private Library ada;
    private Library ben;

    @BeforeEach
    void open() {
        mast = workshop.block("Mast", "Masts", 9);
        Path root = workshop.library().root();
        ada = Library.open(root, "ada", Clock.fixed(MORNING, ZoneOffset.UTC));
        ben = Library.open(root, "ben", Clock.systemUTC());
    }

    private Published publish(Library library) {
        Asset asset = library.find("Mast");
        return library.publish(
                asset,
                VersionStatus.READY,
                new Reissue(asset, "v001", asset.card().id()),
                Map.of(),
                Progress.NONE);
    }

    @Test
    void whatSomebodyHoldsOnlyTheyPublishMoveAndDiscard() {
        Reservation held = ada.reservations().reserve(mast);
        assertThat(held.who()).isEqualTo("ada");
        assertThat(held.since()).isEqualTo(MORNING);
        assertThatThrownBy(() -> publish(ben))
                .hasMessageStartingWith("ada has reserved Mast since " + Timestamps.minutes(MORNING))
                .hasMessageContaining("take the reservation over");
        assertThatThrownBy(() -> ben.places().move(mast, "Elsewhere")).hasMessageContaining("ada has reserved Mast");
        assertThatThrownBy(() -> ben.trash().discard(mast)).hasMessageContaining("ada has reserved Mast");
        assertThatThrownBy(() -> ben.reservations().release(mast)).hasMessageContaining("ada has reserved Mast");
        assertThat(publish(ada).version()).isEqualTo("v002");
        assertThat(ada.reservations().reserve(mast).since())
                .as("still the first time")
                .isEqualTo(MORNING);
        ada.reservations().release(mast);
        assertThat(publish(ben).version()).isEqualTo("v003");
        assertThat(ada.reservations().all()).isEmpty();
    }

    @Test
    void aForgottenReservationIsTakenOverAndThatIsWrittenDown() {
        ada.reservations().reserve(mast);
        ben.reservations().takeOver(mast, "ada is at sea");
        assertThat(publish(ben).version()).isEqualTo("v002");
        assertThatThrownBy(() -> publish(ada)).hasMessageContaining("ben has reserved ");
        assertThat(ben.journal().entries(mast))
                .filteredOn(entry -> entry.what().equals("took over"))
                .singleElement()
                .satisfies(entry -> {
                    assertThat(entry.from()).isEqualTo("ada");
                    assertThat(entry.who()).isEqualTo("ben");
                    assertThat(entry.note()).isEqualTo("ada is at sea");
                });
    }

    @Test
    void whatWasTakenOverIsGivenBackUnlessAThirdHoldsItByNow() {
        Reservation held = ada.reservations().reserve(mast);
        ben.reservations().takeOver(mast, "ada is at sea");
        ben.reservations().giveBack(mast, Optional.of(held));
        assertThat(ada.reservations().of(mast)).contains(held);
        assertThat(ben.journal().entries(mast))
                .filteredOn(entry -> entry.what().equals("gave back"))
                .singleElement()
                .satisfies(entry -> assertThat(entry.note()).isEqualTo("to ada"));
        ada.reservations().release(mast);
        ben.reservations().takeOver(mast, "nobody has it");
        ben.reservations().giveBack(mast, Optional.empty());
        assertThat(ada.reservations().of(mast)).isEmpty();
        Library carla = Library.open(ada.root(), "carla", Clock.systemUTC());
        carla.reservations().reserve(mast);
        assertThatThrownBy(() -> ben.reservations().giveBack(mast, Optional.of(held)))
                .hasMessageContaining("carla has reserved ");
        assertThat(ada.reservations().of(mast).map(Reservation::who)).contains("carla");
    }

    @Test
    void aDamagedReservationHoldsItsAssetEverywhereAlike() throws Exception {
        Files.createDirectories(ada.root().resolve("reservations"));
        Files.writeString(ada.root().resolve("reservations/" + mast.card().id() + ".json"), "{ broken");
        assertThatThrownBy(() -> publish(ben)).hasMessageContaining("cannot be read");
        assertThatThrownBy(() -> ben.reservations().reserve(mast)).hasMessageContaining("cannot be read");
        assertThatThrownBy(() -> ben.reservations().release(mast)).hasMessageContaining("cannot be read");
        assertThatThrownBy(() -> ben.places().move(mast, "Elsewhere")).hasMessageContaining("cannot be read");
        assertThat(ben.reservations().all()).singleElement().satisfies(held -> assertThat(held.isReadable())
                .isFalse());
        assertThat(ben.verify(Progress.NONE).problems())
                .extracting(Problem::kind)
                .containsExactly(Problem.Kind.RESERVATION);
        assertThat(ben.reservations().takeOver(mast, "").who()).isEqualTo("ben");
    }
}
