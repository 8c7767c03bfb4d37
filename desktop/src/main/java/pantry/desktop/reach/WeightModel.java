package pantry.desktop.reach;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleObjectProperty;
import pantry.desktop.session.LatestWork;
import pantry.desktop.session.Session;
import pantry.project.AssetWeights;
import pantry.project.ProjectWeight;
import pantry.project.ProjectWeight.Measure;
import pantry.project.Reach;
import pantry.project.Savings;

/** What the projects weigh, or the file that is looked at, and what would make that lighter. */
public final class WeightModel {
    private final ReadOnlyObjectProperty<KnownProjects> known;
    private final ReadOnlyObjectProperty<Subject> subject;
    private final AssetWeights weights = new AssetWeights();
    private final LatestWork weighing;
    private final LatestWork saving;
    private final BooleanProperty shown = new SimpleBooleanProperty();
    private final ObjectProperty<Measure> measure = new SimpleObjectProperty<>(Measure.DRAWN);
    private final ReadOnlyObjectWrapper<Optional<ProjectWeight>> weight = new ReadOnlyObjectWrapper<>(Optional.empty());
    private final ReadOnlyObjectWrapper<List<Savings.Saving>> savings = new ReadOnlyObjectWrapper<>(List.of());
    private Optional<Path> weighed = Optional.empty();

    WeightModel(Session session, ReadOnlyObjectProperty<KnownProjects> known, ReadOnlyObjectProperty<Subject> subject) {
        this.known = known;
        this.subject = subject;
        weighing = new LatestWork(session.background());
        saving = new LatestWork(session.background());
        known.addListener(change -> weigh());
        subject.addListener(change -> {
            if (!file().equals(weighed)) {
                weigh();
            }
        });
        shown.addListener(change -> weigh());
    }

    /** Whether somebody looks at it; nothing is weighed otherwise. */
    public BooleanProperty shownProperty() {
        return shown;
    }

    /** What the areas stand for. */
    public ObjectProperty<Measure> measureProperty() {
        return measure;
    }

    /** Empty until something was weighed. */
    public ReadOnlyObjectProperty<Optional<ProjectWeight>> weightProperty() {
        return weight.getReadOnlyProperty();
    }

    /** What would make it lighter; they are found after it was weighed. */
    public ReadOnlyObjectProperty<List<Savings.Saving>> savingsProperty() {
        return savings.getReadOnlyProperty();
    }

    /** Whether something is being worked out. */
    public boolean isPending() {
        return weighing.isPending() || saving.isPending();
    }

    private Optional<Path> file() {
        return subject.get() instanceof Subject.OfFile(Path file) ? Optional.of(file) : Optional.empty();
    }

    private void weigh() {
        Optional<Reach> reach = known.get().reach();
        if (!shown.get() || reach.isEmpty()) {
            weighing.drop();
            saving.drop();
            if (reach.isEmpty()) {
                weight.set(Optional.empty());
                savings.set(List.of());
            }
            return;
        }
        Reach now = reach.get();
        Optional<Path> only = file().filter(now.files()::contains);
        weighed = file();
        weighing.answer(
                "weighing",
                progress -> only.map(file -> ProjectWeight.of(now, file, weights, progress))
                        .orElseGet(() -> ProjectWeight.of(now, weights, progress)),
                found -> {
                    weight.set(Optional.of(found));
                    saving.answer(
                            "looking for what would make it lighter",
                            progress -> Savings.of(found, now, weights, progress),
                            savings::set);
                });
    }
}
