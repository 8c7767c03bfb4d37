package pantry.library;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;

class CardChangesTest {
    private static final Card MAST = Card.fresh("id", "Mast", AssetKind.MODEL);

    @Provide
    Arbitrary<Card> cards() {
        Arbitrary<List<String>> tags = Arbitraries.of("tall", "guyed", "old", "steel")
                .list()
                .uniqueElements()
                .ofMaxSize(4);
        Arbitrary<String> texts = Arbitraries.of("", "one", "two\nlines", "größer");
        Arbitrary<Map<String, String>> fields =
                Arbitraries.maps(Arbitraries.of("Store", "Counted"), Arbitraries.of("North", "South", "7"));
        return Combinators.combine(
                        tags, texts, Arbitraries.of("", "MIT", "CC0-1.0"), fields, Arbitraries.of(AssetKind.values()))
                .as((tag, text, licence, field, kind) -> {
                    Card card = MAST.withTags(tag)
                            .withNotes(text)
                            .withLicence(licence)
                            .withKind(kind);
                    for (Map.Entry<String, String> each : field.entrySet()) {
                        card = card.withField(each.getKey(), each.getValue());
                    }
                    return card;
                });
    }

    @Property(tries = 500)
    void whatWasChangedIsTakenBackExactly(@ForAll("cards") Card before, @ForAll("cards") Card after) {
        CardChanges changes = CardChanges.between(before, after);
        Card undone = changes.undone(after);
        assertThat(undone.withTags(List.of())).isEqualTo(before.withTags(List.of()));
        assertThat(undone.tags()).containsExactlyInAnyOrderElementsOf(before.tags());
        assertThat(CardChanges.between(before, before).isEmpty()).isTrue();
    }

    @Property(tries = 300)
    void whatOthersChangedMeanwhileStays(@ForAll("cards") Card before, @ForAll("cards") Card after) {
        CardChanges changes = CardChanges.between(before, after);
        Card meanwhile = after.withCredit("somebody else").tagged("theirs").withField("Theirs", "yes");
        Card undone = changes.undone(meanwhile);
        assertThat(undone.credit()).isEqualTo("somebody else");
        assertThat(undone.tags()).contains("theirs");
        assertThat(undone.fields()).containsEntry("Theirs", "yes");
        assertThat(undone.notes()).isEqualTo(before.notes());
    }

    @Test
    void tagsAreAddedTakenOffRenamedAndJoined() {
        Card card = MAST.tagged("a").tagged("b").tagged("a");
        assertThat(card.tags()).containsExactly("a", "b");
        assertThat(card.untagged("a").tags()).containsExactly("b");
        assertThat(card.retagged("a", "c").tags()).containsExactly("c", "b");
        assertThat(card.retagged("a", "b").tags()).containsExactly("b");
        assertThat(card.withField("Store", "North").withField("Store", " ").fields())
                .isEmpty();
    }

    @Test
    void theFollowedVersionIsTheNewestThatIsReady() {
        Card card = MAST.with("v001", VersionStatus.READY)
                .with("v002", VersionStatus.READY)
                .with("v010", VersionStatus.DRAFT);
        assertThat(card.ready()).isEqualTo("v002");
        assertThat(card.with("v010", VersionStatus.READY).ready()).isEqualTo("v010");
        assertThat(card.with("v002", VersionStatus.DRAFT).ready()).isEqualTo("v001");
        assertThat(card.with("v001", VersionStatus.READY).ready())
                .as("made ready once more")
                .isEqualTo("v001");
        assertThat(VersionName.of(7)).isEqualTo("v007");
        assertThat(VersionName.of(1234)).isEqualTo("v1234");
        assertThat(List.of("v1000", "v010", "v002").stream().sorted(VersionName.ORDER))
                .containsExactly("v002", "v010", "v1000");
        assertThat(VersionName.matches("v01")).isFalse();
        assertThat(VersionName.matches("v0012345678901")).isFalse();
    }
}
