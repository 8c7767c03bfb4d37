package pantry.library;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.testing.WithWorkshop;

class CardTest extends WithWorkshop {
    @Test
    void manyCardsAreChangedAtOnceWrittenDownAndTakenBack() {
        Asset mast = workshop.block("Mast", "Masts", 9);
        Asset post = workshop.block("Post", "Masts", 3);
        List<Library.Edited> edited = library.edit(
                List.of(mast, post),
                card -> card.tagged("outdoor").withLicence("CC-BY-4.0").withField("Store", "North"),
                Progress.NONE);
        assertThat(edited).hasSize(2);
        assertThat(library.journal().entries(mast)).last().satisfies(entry -> {
            assertThat(entry.what()).isEqualTo("card");
            assertThat(entry.who()).isEqualTo("tester");
            assertThat(entry.changes().keySet()).containsExactlyInAnyOrder("tags", "licence", "fields");
            assertThat(entry.changes().get("licence")).isEqualTo(new CardChanges.Change("CC0-1.0", "CC-BY-4.0"));
        });
        assertThat(library.edit(List.of(mast), card -> card.tagged("outdoor"), Progress.NONE))
                .as("what is so already is no change")
                .isEmpty();
        library.edit(List.of(mast), card -> card.tagged("guyed").withNotes("since then"), Progress.NONE);
        library.undo(edited, Progress.NONE);
        Card now = library.find("Mast").card();
        assertThat(now.tags()).as("only what was undone is gone").containsExactly("guyed");
        assertThat(now.notes()).isEqualTo("since then");
        assertThat(now.licence()).isEqualTo("CC0-1.0");
        assertThat(now.fields()).isEmpty();
    }

    @Test
    void twoPeopleChangingOneCardLoseNothing() {
        Asset seenByBoth = workshop.block("Mast", "Masts", 9);
        Library other = Library.open(library.root(), "ben", Clock.systemUTC());
        library.edit(List.of(seenByBoth), card -> card.tagged("guyed"), Progress.NONE);
        other.edit(List.of(seenByBoth), card -> card.withNotes("from ben").tagged("tall"), Progress.NONE);
        assertThat(library.find("Mast").card().tags()).containsExactly("guyed", "tall");
        assertThat(library.find("Mast").card().notes()).isEqualTo("from ben");
        assertThat(library.journal().entries(seenByBoth))
                .filteredOn(entry -> entry.what().equals("card"))
                .extracting(JournalEntry::who)
                .containsExactly("tester", "ben");
    }

    @Test
    void whatOtherProgramsWroteOnACardStays() throws Exception {
        Asset mast = workshop.block("Mast", "Masts", 9);
        Path card = mast.folder().resolve("card.json");
        Files.writeString(
                card,
                Files.readString(card)
                        .replaceFirst("\\{", "{ \"renderFarm\" : { \"queue\" : [ 1, 2 ] }, \"später\" : null,"));
        library.edit(List.of(mast), each -> each.tagged("new"), Progress.NONE);
        assertThat(Files.readString(card))
                .contains("\"renderFarm\"")
                .contains("\"queue\"")
                .contains("\"später\"");
        assertThat(library.find("Mast").card().others()).containsKey("renderFarm");
    }

    @Test
    void brokenAndForeignCardsAreSaidWithFileAndPlaceAndNothingElseSuffers() throws Exception {
        workshop.block("Good", "Masts", 1);
        for (String broken : List.of(
                "",
                "{",
                "[]",
                "null",
                "{\"id\":\"x\",\"name\":\"N\",\"kind\":\"spaceship\"}",
                "{\"id\":\"x\",\"name\":\"N\",\"kind\":\"model\",\"tags\":\"not a list\"}",
                "{\"id\":\"\",\"name\":\"N\",\"kind\":\"model\"}")) {
            Asset bad = workshop.block("Bad", "Masts", 1);
            Path card = bad.folder().resolve("card.json");
            Files.writeString(card, broken);
            assertThatThrownBy(() -> library.asset(bad.folder()))
                    .as(broken)
                    .isInstanceOf(PantryException.class)
                    .satisfies(e -> assertThat(((PantryException) e).file()).contains(card.toString()));
            assertThat(library.assets()).extracting(Asset::slug).containsExactly("good");
            pantry.base.AtomicFiles.deleteTree(bad.folder());
        }
    }

    @Test
    void licencesAreCheckedWhenTheyAreWritten() {
        Asset mast = workshop.block("Mast", "Masts", 9);
        assertThatThrownBy(() -> library.edit(List.of(mast), card -> card.withLicence("CC BY 4"), Progress.NONE))
                .hasMessageContaining("CC BY 4");
        assertThatThrownBy(() -> Licences.require("CCBY-4.0")).hasMessageContaining("perhaps CC-BY-4.0");
        assertThatThrownBy(() -> Licences.require("Apache")).hasMessageContaining("Apache-2.0");
        for (String good : List.of(
                "",
                "CC0-1.0",
                "MIT OR Apache-2.0",
                "(CC-BY-4.0 AND MIT) OR LicenseRef-House",
                "GPL-2.0-or-later WITH Classpath-exception-2.0",
                "Apache-1.1+")) {
            assertThat(Licences.valid(good)).as(good).isTrue();
        }
        for (String bad : List.of("MIT OR", "MIT Apache-2.0", "(MIT", "AND", "MIT)", "LicenseRef-", "WITH x")) {
            assertThat(Licences.valid(bad)).as(bad).isFalse();
        }
    }

    /** SPDX specification 2.3, annex D: identifiers are matched whatever their case. */
    @Test
    void licencesAreKeptAsTheListSpellsThem() {
        Asset mast = workshop.block("Mast", "Masts", 9);
        library.edit(
                List.of(mast), card -> card.withLicence(" (cc-by-4.0 OR mit) AND LicenseRef-house"), Progress.NONE);
        assertThat(library.find("Mast").card().licence()).isEqualTo("(CC-BY-4.0 OR MIT) AND LicenseRef-house");
        assertThat(Licences.like("cc by", 3)).first().asString().startsWith("CC-BY-");
        assertThat(Licences.like("by-sa-4", 5)).contains("CC-BY-SA-4.0");
        assertThat(Licences.like("", 5)).hasSize(5);
    }

    @Test
    void tagsFollowOneRuleWhereverTheyAreWritten() {
        Asset mast = workshop.block("Mast", "Masts", 9);
        library.edit(List.of(mast), card -> card.tagged(" steel,  tall  one ").tagged("Steel"), Progress.NONE);
        assertThat(library.find("Mast").card().tags()).containsExactly("steel", "tall one");
        assertThat(Tags.given(", ,")).isEmpty();
        assertThat(Tags.given(List.of("a, b", "B", "c"))).containsExactly("a", "b", "c");
        assertThat(Tags.given("Cafe\u0301")).as("composed").containsExactly("Café");
        assertThatThrownBy(() -> Tags.given("a\u202eb")).hasMessageContaining("cannot be seen");
        assertThatThrownBy(() -> Tags.given("x".repeat(61))).hasMessageContaining("60");
        assertThatThrownBy(() -> library.edit(List.of(mast), card -> card.tagged("two\nlines"), Progress.NONE))
                .hasMessageContaining("line ends");
    }

    @Test
    void goingBackPublishesTheOldVersionOnceMore() {
        Asset mast = workshop.block("Mast", "Masts", 9);
        library.publish(
                mast, VersionStatus.READY, new Reissue(mast, "v001", mast.card().id()), Map.of(), Progress.NONE);
        Published back = library.goBack(mast, "v001", "the new one was too heavy", Progress.NONE);
        assertThat(back.version()).isEqualTo("v003");
        assertThat(back.asset().ready()).contains("v003");
        assertThat(library.history(back.asset()))
                .extracting(VersionInfo::version, VersionInfo::note)
                .contains(org.assertj.core.groups.Tuple.tuple("v003", "the new one was too heavy"));
        assertThat(workshop.layers().open(back.asset().entryLayer("v003")).rootPrims())
                .first()
                .satisfies(prim ->
                        assertThat(prim.metadata().get("assetInfo").toString()).contains("v003"));
        assertThatThrownBy(() -> library.goBack(mast, "v009", "", Progress.NONE))
                .hasMessageContaining("has no version v009");
        Asset retired = library.setStatus(mast, "v003", VersionStatus.RETIRED);
        assertThat(retired.ready()).as("the newest that is still ready").contains("v002");
        assertThat(library.verify(Progress.NONE).problems()).isEmpty();
    }
}
