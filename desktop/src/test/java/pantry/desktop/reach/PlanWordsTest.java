package pantry.desktop.reach;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import pantry.base.math.Matrix4;
import pantry.project.Change;
import pantry.project.ChangePlan;
import pantry.project.Relinking;
import pantry.project.Strays;
import pantry.usd.SdfPath;

/** What is said and listed of plans. */
class PlanWordsTest {
    private static final Path YARD = Path.of("/project/yard.usda");
    private static final Path FIELD = Path.of("/project/field.usda");

    private static Change change(Path file, String place) {
        return new Change(file, place, Path.of("/a"), Path.of("/b"), "Mast: v001 → v002");
    }

    @ParameterizedTest
    @EnumSource
    void everyGoalSaysWhatToDoWhereThereIsNothing(Goal goal) {
        assertThat(PlanWords.said(Planned.NOTHING, goal)).isNotBlank().endsWith(".");
        assertThat(goal.words()).isNotBlank();
        assertThat(PlanLine.of(Planned.NOTHING)).isEmpty();
    }

    @Test
    void changesStandBelowTheirFiles() {
        Planned planned = Planned.of(
                new ChangePlan("Updated", List.of(change(YARD, "/A"), change(FIELD, "/A"), change(YARD, "/B"))));
        assertThat(PlanLine.of(planned))
                .containsExactly(
                        new PlanLine.Head(YARD, List.of(change(YARD, "/A"), change(YARD, "/B"))),
                        new PlanLine.One(change(YARD, "/A")),
                        new PlanLine.One(change(YARD, "/B")),
                        new PlanLine.Head(FIELD, List.of(change(FIELD, "/A"))),
                        new PlanLine.One(change(FIELD, "/A")));
        assertThat(PlanWords.said(planned, Goal.READY)).contains("to the letter");
    }

    @Test
    void whatIsNotSurelyFoundIsListedAndAMovedFolderIsNamed() {
        Relinking.Missing lost = new Relinking.Missing(YARD, List.of("/A"), Path.of("/gone/a.png"), List.of());
        Relinking.Candidate candidate = new Relinking.Candidate(Path.of("/new/b.png"), "has its name", 0.9);
        Relinking.Missing found = new Relinking.Missing(YARD, List.of("/B"), Path.of("/old/b.png"), List.of(candidate));
        Planned planned = new Planned(Relinking.plan(List.of(lost, found)), new Planned.Relinks(List.of(lost, found)));
        assertThat(PlanLine.of(planned)).hasSize(3).endsWith(new PlanLine.NotFound(lost));
        assertThat(PlanWords.said(planned, Goal.RELINK)).isEqualTo("/old seems to stand in /new now.");
        Planned none = new Planned(Planned.NOTHING.plan(), new Planned.Relinks(List.of(lost)));
        assertThat(PlanWords.said(none, Goal.RELINK)).isEqualTo("Nothing was found that is surely it.");
    }

    @Test
    void whatRecursIsToldWithoutBeingAChange() {
        Strays.Copy copy = new Strays.Copy(YARD, SdfPath.of("/Stone"), Matrix4.IDENTITY, 0, Set.of());
        Planned planned = new Planned(
                Planned.NOTHING.plan(),
                new Planned.Copies(List.of(), List.of(new Strays.Recurring(30, List.of(copy, copy)))));
        assertThat(PlanLine.of(planned)).singleElement().satisfies(line -> {
            assertThat(line).isInstanceOf(PlanLine.Note.class);
            PlanLine.Note note = (PlanLine.Note) line;
            assertThat(note.says()).isEqualTo("2 copies of no asset, 30 triangles each");
            assertThat(note.more()).contains("yard.usda /Stone");
            assertThat(note.wrong()).isFalse();
        });
        assertThat(planned.copies()).isEmpty();
        assertThat(planned.recurring()).hasSize(1);
    }
}
