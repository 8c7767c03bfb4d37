package pantry.desktop.prep;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleObjectProperty;
import pantry.desktop.session.LatestWork;
import pantry.desktop.session.Session;
import pantry.model.Weight;
import pantry.prep.fix.Tidy;
import pantry.prep.inspect.Finding;
import pantry.workpiece.Workpiece;

/** The findings that are ticked or pointed at, and what the working copy would weigh with them put right. */
public final class ChosenFindings {
    private final Session session;
    private final ReadOnlyObjectProperty<Optional<Opened>> opened;
    private final ObjectProperty<Set<String>> ticked = new SimpleObjectProperty<>(Set.of());
    private final ObjectProperty<Optional<Finding>> pointed = new SimpleObjectProperty<>(Optional.empty());
    private final ReadOnlyObjectWrapper<Optional<Weight>> foreseen = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final LatestWork foresight;

    /** @param opened the working copy that findings are of */
    ChosenFindings(Session session, ReadOnlyObjectProperty<Optional<Opened>> opened) {
        this.session = session;
        this.opened = opened;
        this.foresight = new LatestWork(session.background());
        ticked.addListener(change -> foresee());
        pointed.addListener(change -> foresee());
    }

    /** The ids of findings that are to be put right. */
    public ObjectProperty<Set<String>> tickedProperty() {
        return ticked;
    }

    /** The finding that is shown in the picture. */
    public ObjectProperty<Optional<Finding>> pointedProperty() {
        return pointed;
    }

    /** What the working copy would weigh with the ticked findings put right, or the one that is pointed at. */
    public ReadOnlyObjectProperty<Optional<Weight>> foreseenProperty() {
        return foreseen.getReadOnlyProperty();
    }

    void forget() {
        ticked.set(Set.of());
        pointed.set(Optional.empty());
    }

    /** Lets go of what is no longer found. */
    void keepWhatIsIn(List<Finding> found) {
        Set<String> still = new LinkedHashSet<>(ticked.get());
        still.retainAll(found.stream().map(Finding::id).toList());
        pointed.set(pointed.get().flatMap(before -> found.stream()
                .filter(finding -> finding.id().equals(before.id()))
                .findFirst()));
        ticked.set(still);
    }

    /** The ticked findings. */
    List<Finding> ticked() {
        return opened.get()
                .map(now -> now.findings().stream()
                        .filter(finding -> ticked.get().contains(finding.id()))
                        .toList())
                .orElse(List.of());
    }

    /** Says what the working copy would weigh after what is being prepared. */
    private void foresee() {
        foreseen.set(Optional.empty());
        session.weightAfterProperty().set(Optional.empty());
        List<Finding> chosen = wanted();
        Optional<Opened> now = opened.get();
        if (now.isEmpty() || chosen.isEmpty()) {
            foresight.drop();
            return;
        }
        Opened work = now.get();
        Tidy.Choice choice = new Tidy.Choice(work.inspection().findings(), chosen);
        foresight.quietly(
                "weighing",
                progress -> {
                    Workpiece copy;
                    synchronized (work.piece()) {
                        copy = work.piece().copy();
                    }
                    return Tidy.preview(copy, work.rules(), work.around(), choice, progress);
                },
                weight -> {
                    foreseen.set(Optional.of(weight));
                    session.weightAfterProperty().set(Optional.of(weight));
                });
    }

    /** The ticked findings, or else the one that is pointed at. */
    private List<Finding> wanted() {
        List<Finding> chosen = ticked();
        return chosen.isEmpty()
                ? pointed.get().filter(Finding::fixable).stream().toList()
                : chosen;
    }

    /** Ticks all findings that can be put right, of some rules or of all. */
    public void tick(Predicate<Finding> which, boolean on) {
        Set<String> now = new LinkedHashSet<>(ticked.get());
        opened.get().map(Opened::findings).orElse(List.of()).stream()
                .filter(finding -> finding.fixable() && which.test(finding))
                .forEach(finding -> {
                    if (on) {
                        now.add(finding.id());
                    } else {
                        now.remove(finding.id());
                    }
                });
        ticked.set(now);
    }
}
