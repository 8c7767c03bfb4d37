package pantry.demo;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import pantry.base.AtomicFiles;
import pantry.base.Names;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.format.Imported;
import pantry.exchange.format.Samples;
import pantry.intake.Intake;
import pantry.intake.Neighbours;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Library;
import pantry.library.VersionStatus;
import pantry.model.Axis;
import pantry.model.Colour;
import pantry.model.Fixture;
import pantry.model.Material;
import pantry.model.Model;
import pantry.scene.Scene;
import pantry.usd.SdfPath;
import pantry.usd.schema.TransformComponents;
import pantry.usecase.MakeAsset;
import pantry.usecase.MixParts;
import pantry.usecase.NextVersion;
import pantry.workbench.Workbench;

/** Fills the demo's shelves: models with their versions, materials, images, lights, and prefabs made of each other. */
final class Stock {
    /** When the first asset was shelved. */
    private static final Instant BEGUN = Instant.parse("2026-02-02T08:00:00Z");

    private static final Duration BETWEEN_VERSIONS = Duration.ofDays(37);

    private final Workbench workbench;
    private final Paints paints;
    private final Library library;
    private final Path scratch;
    private final Map<String, Asset> assets = new HashMap<>();
    private final Calendar calendar = new Calendar();

    /** A clock that goes on a little whenever it is read, and by leaps when told. */
    private static final class Calendar extends Clock {
        private Instant now = BEGUN;

        @Override
        public ZoneId getZone() {
            return ZoneOffset.UTC;
        }

        @Override
        public Clock withZone(ZoneId zone) {
            return this;
        }

        @Override
        public Instant instant() {
            now = now.plusMillis(731);
            return now;
        }

        void leap(Duration by) {
            now = now.plus(by);
        }
    }

    /** @param scratch a folder for what does not stay */
    Stock(Workbench workbench, Paints paints, Path folder, Path scratch) {
        this.workbench = workbench;
        this.paints = paints;
        this.scratch = scratch;
        this.library = Library.create(folder, "Skua Point", "Skua Point workshop", calendar);
    }

    /** Shelves everything; gives the assets by name. */
    Map<String, Asset> fill(StationAssets station, Progress progress) throws IOException {
        List<Recipe> recipes = new ArrayList<>(station.recipes());
        recipes.addAll(FieldAssets.recipes());
        recipes.addAll(LivingAssets.recipes());
        recipes.addAll(new CampAssets(paints).recipes());
        for (int i = 0; i < recipes.size(); i++) {
            Recipe recipe = recipes.get(i);
            progress.step("shelving " + recipe.model().name(), 0.7 * i / recipes.size());
            calendar.leap(Duration.ofMinutes(47));
            shelve(recipe.model(), slip(recipe.model().name(), AssetKind.MODEL, recipe.shelf(), recipe.tags()));
        }
        progress.step("mixing paints", 0.72);
        materials();
        materialParts();
        lights();
        images();
        motions();
        progress.step("putting prefabs together", 0.78);
        prefabs();
        progress.step("publishing what was improved", 0.84);
        versions(recipes);
        cards();
        return assets;
    }

    private static Slip slip(String name, AssetKind kind, String shelf, List<String> tags) {
        return Slip.plain(name, kind, shelf, 1, Axis.Y).withTags(tags).withCredit("CC0-1.0", "Skua Point workshop");
    }

    private void shelve(Model model, Slip slip) {
        Asset asset =
                workbench.intake().shelve(model, slip, library, Progress.NONE).asset();
        assets.put(asset.card().name(), asset);
    }

    private void versions(List<Recipe> recipes) {
        Library crew = Library.open(library.root(), "Field crew", calendar);
        Intake intake = workbench.intake();
        for (Recipe recipe : recipes) {
            for (Recipe.Later later : recipe.later()) {
                calendar.leap(BETWEEN_VERSIONS.dividedBy(8));
                Asset asset =
                        crew.byId(assets.get(recipe.model().name()).card().id()).orElseThrow();
                intake.publish(
                        later.model(),
                        slip(asset.card().name(), AssetKind.MODEL, recipe.shelf(), recipe.tags()),
                        new Intake.Next(asset, later.ready() ? VersionStatus.READY : VersionStatus.DRAFT, later.note()),
                        crew,
                        Progress.NONE);
            }
        }
        calendar.leap(BETWEEN_VERSIONS);
        crew.goBack(assets.get("Mess table"), "v001", "the old length fits the small mess after all", Progress.NONE);
        crew.setStatus(assets.get("Mess table"), "v003", VersionStatus.RETIRED);
    }

    private void materials() {
        for (Material material : List.of(
                Paints.SIGNAL_RED,
                Paints.STATION_WHITE,
                Paints.DARK_STEEL,
                Paints.ALUMINIUM,
                Paints.RUBBER,
                Paints.GLASS,
                Paints.SNOW,
                Paints.BAMBOO,
                paints.cells(),
                paints.wood())) {
            calendar.leap(Duration.ofMinutes(13));
            shelve(
                    Samples.balls(material.name(), List.of(material)),
                    slip(material.name(), AssetKind.MATERIAL, "Materials", List.of("surface")));
        }
    }

    /** A wood and a rust that are made of nodes, and a material of each that uses them. */
    private void materialParts() throws IOException {
        MixParts mix = new MixParts(workbench.intake(), workbench.readers(), library);
        Material bare = Material.plain("Boardwalk", Colour.ofDisplay(0x8A7358), 0, 0.8);
        mixed(mix, bare, part("Wood grain", NodeGroups.WOOD), new Mix(1, "of boards now"));
        Material red = Material.plain("Rusted signal red", Paints.SIGNAL_RED.base(), 0, 0.35);
        mixed(mix, red, part("Rust", NodeGroups.RUST), new Mix(0.9, "after a winter at the jetty"));
    }

    private record Mix(double amount, String note) {}

    private Asset part(String name, String group) throws IOException {
        calendar.leap(Duration.ofMinutes(21));
        Files.createDirectories(scratch);
        Path file = Files.writeString(scratch.resolve(Names.slug(name) + ".mtlx"), NodeGroups.document(group));
        Intake intake = workbench.intake();
        Imported read = intake.read(file, Progress.NONE);
        Slip slip = slip(name, AssetKind.MATERIAL_PART, "Materials/Parts", List.of("nodes"));
        Asset asset =
                intake.shelve(read, slip, library, Progress.NONE).published().asset();
        assets.put(name, asset);
        return asset;
    }

    private void mixed(MixParts mix, Material material, Asset part, Mix how) {
        calendar.leap(Duration.ofMinutes(13));
        shelve(
                Samples.balls(material.name(), List.of(material)),
                slip(material.name(), AssetKind.MATERIAL, "Materials", List.of("surface")));
        calendar.leap(Duration.ofMinutes(34));
        mix.publish(
                new NextVersion(assets.get(material.name()), VersionStatus.READY, how.note()),
                new MixParts.Change.In(part, how.amount(), true),
                Progress.NONE);
    }

    private void lights() throws IOException {
        workLights();
        Path ridge = Files.write(scratch.resolve("ridge-sky.exr"), Sky.exr());
        received(ridge, "Lights", "Ridge sky", List.of("day", "outdoor", "sky"));
        Matrix4 low = Matrix4.rotation(0, -26).times(Matrix4.rotation(1, 128));
        sky(
                "Low sun",
                "day",
                List.of(light("Sun", low, Fixture.Light.Kind.DISTANT, 0xFFD9A8, 46_000), dome(0xB8CFF0, 0.5)));
        sky("Polar night", "night", List.of(dome(0x6E8FC9, 0.035)));
    }

    /** A rig that lights all, wherever it stands: its post only shows that it is there. */
    private void sky(String name, String tag, List<Fixture> lights) {
        Kit kit = new Kit().part("Post").cylinder(Paints.DARK_STEEL, 0.04, 1.1, 0, 0, 0);
        kit.part("Ball").sphere(Paints.OCHRE, 0.16, 0, 1.25, 0);
        kit.part("Foot").cylinder(Paints.DARK_STEEL, 0.25, 0.05, 0, 0, 0);
        Model model = kit.model(name).with(new Model.Extras(lights, 0, List.of()));
        shelve(model, slip(name, AssetKind.LIGHT_RIG, "Lights", List.of(tag, "outdoor")));
    }

    private static Fixture light(String name, Matrix4 place, Fixture.Light.Kind kind, int colour, double intensity) {
        return new Fixture.Light(name, place, kind, Colour.ofDisplay(colour), intensity, 180);
    }

    private static Fixture dome(int colour, double intensity) {
        return light("Sky", Matrix4.IDENTITY, Fixture.Light.Kind.DOME, colour, intensity);
    }

    private void workLights() {
        Kit kit = new Kit();
        List<Fixture> lamps = new ArrayList<>();
        for (int i = 0; i < 3; i++) {
            double x = i * 2.0 - 2;
            kit.part("Stand " + (i + 1)).cylinder(Paints.DARK_STEEL, 0.025, 2.2, x, 0, 0);
            for (int leg = 0; leg < 3; leg++) {
                double a = Math.toRadians(120.0 * leg);
                kit.rod(
                        Paints.DARK_STEEL,
                        0.02,
                        new Vec3(x, 0.6, 0),
                        new Vec3(x + 0.5 * Math.cos(a), 0, 0.5 * Math.sin(a)));
            }
            kit.part("Lamp " + (i + 1)).block(Paints.OCHRE, 0.4, 0.3, 0.12, x, 2.2, 0);
            kit.block(Paints.GLASS, 0.34, 0.24, 0.02, x, 2.23, 0.07);
            Matrix4 place = Matrix4.rotation(1, 180).times(Kit.at(x, 2.35, 0.1));
            lamps.add(light("Lamp " + (i + 1), place, Fixture.Light.Kind.RECT, 0xFFF1DC, 40));
        }
        Model model = kit.model("Work lights").with(new Model.Extras(lamps, 0, List.of()));
        shelve(model, slip("Work lights", AssetKind.LIGHT_RIG, "Lights", List.of("night", "outdoor")));
    }

    private void images() throws IOException {
        Files.createDirectories(scratch);
        Path label = scratch.resolve("drum-label.png");
        Paints.writeLabel(label);
        received(label, "Images", "Drum label", List.of("label", "fuel"));
    }

    private void motions() throws IOException {
        Path carry = Files.writeString(scratch.resolve("carry-a-case.bvh"), LivingAssets.carry());
        received(carry, "Living/Motions", "Carry a case", List.of("walk", "moving"));
    }

    private void received(Path file, String shelf, String name, List<String> tags) {
        Intake intake = workbench.intake();
        var arrival = intake.read(file, Progress.NONE);
        Slip slip = Intake.suggested(arrival, shelf, Neighbours.NONE)
                .withName(name)
                .withTags(tags)
                .withCredit("CC0-1.0", "Skua Point workshop");
        Asset asset =
                intake.shelve(arrival, slip, library, Progress.NONE).published().asset();
        assets.put(asset.card().name(), asset);
    }

    /** Where something stands in a prefab. */
    private record Put(String name, double x, double y, double z, double turn) {}

    private void prefabs() throws IOException {
        prefab(
                "Weather mast",
                "Instruments/Stations",
                List.of("mast", "sensor"),
                List.of(
                        new Put("Lattice mast 6 m", 0, 0, 0, 0),
                        new Put("Cup anemometer", 0.8, 5.72, 0, 0),
                        new Put("Wind vane", -0.8, 5.72, 0, 0),
                        new Put("Radiation screen", 0.5, 1.6, 0.2, 0),
                        new Put("Battery box", 1.2, 0, 0.6, 30)));
        List<Put> bank = new ArrayList<>();
        for (int i = 0; i < 3; i++) {
            bank.add(new Put("Solar array row", 0, 0, i * 4.0, 0));
        }
        bank.add(new Put("Inverter cabinet", 5.2, 0, 4, -90));
        prefab("Solar bank", "Power/Solar", List.of("solar", "array"), bank);
        List<Put> field = new ArrayList<>();
        for (int i = 0; i < 4; i++) {
            field.add(new Put("Solar bank", (i % 2) * 14.0, 0, (i / 2) * 14.0, 0));
        }
        field.add(new Put("Power post", 6.6, 0, 6, 0));
        prefab("Solar field", "Power/Solar", List.of("solar", "array", "landmark"), field);
        List<Put> drums = new ArrayList<>();
        for (int i = 0; i < 12; i++) {
            drums.add(new Put("Fuel drum", i % 4 * 0.7, 0, i / 4 * 0.72, i * 41));
        }
        drums.add(new Put("Jerry can", 3, 0, 0.2, 12));
        drums.add(new Put("Jerry can", 3.1, 0, 0.7, -8));
        prefab("Fuel store", "Power/Supply", List.of("fuel", "stores"), drums);
        prefab(
                "Mess corner",
                "Living/Rooms",
                List.of("indoor", "furniture"),
                List.of(
                        new Put("Mess table", 0, 0, 0, 0),
                        new Put("Chair", -0.5, 0, 0.7, 180),
                        new Put("Chair", 0.5, 0, 0.7, 180),
                        new Put("Chair", -0.5, 0, -0.7, 0),
                        new Put("Chair", 0.5, 0, -0.7, 0),
                        new Put("Bookshelf", 0, 0, -1.8, 0),
                        new Put("Stove", 1.9, 0, -1.4, 0)));
    }

    private void prefab(String name, String shelf, List<String> tags, List<Put> parts) throws IOException {
        calendar.leap(Duration.ofHours(3));
        Path file = scratch.resolve(name.toLowerCase(java.util.Locale.ROOT).replace(' ', '-') + ".usda");
        Scene scene = workbench.createScene(file);
        for (Put part : parts) {
            scene.placements()
                    .place(
                            assets.get(part.name()),
                            Optional.empty(),
                            part.name(),
                            new TransformComponents(
                                    new Vec3(part.x(), part.y(), part.z()), new Vec3(0, part.turn(), 0), Vec3.ONE),
                            Optional.empty());
        }
        List<SdfPath> whole = List.of(scene.root());
        Asset asset = new MakeAsset(workbench.layers(scene.file()), workbench.renderCache())
                .run(
                        new MakeAsset.Source(scene, whole),
                        library,
                        new MakeAsset.Options(name, AssetKind.PREFAB, shelf, tags),
                        Progress.NONE)
                .asset();
        assets.put(
                name,
                library.edit(
                                List.of(asset),
                                card -> card.withLicence("CC0-1.0").withCredit("Skua Point workshop"),
                                Progress.NONE)
                        .getFirst()
                        .asset());
        AtomicFiles.deleteTree(file);
    }

    /** What people wrote on some of the cards. */
    private void cards() {
        Library lead = Library.open(library.root(), "Station lead", calendar);
        note(lead, "Radome on plinth", "Shut for maintenance in July; the panels come off from the north side.");
        note(lead, "Snow tractor", "The cab tilts forward; keep two metres free before it.");
        note(lead, "Fuel bladder", "Only on a levelled tray. Never inside thirty metres of the living modules.");
        note(lead, "Microscope", "Lent to the ice core team until the ship comes.");
        for (String name : List.of("Chair", "Mess table", "Locker", "Gas bottle")) {
            lead.edit(
                    List.of(assets.get(name)),
                    card -> card.withColourable(List.of(name.equals("Mess table") ? "Drum plywood" : "Teal panel")),
                    Progress.NONE);
        }
        for (String name : List.of("Store crate", "Toolbox", "Snow shovel", "Gas bottle", "Ice core box")) {
            lead.edit(
                    List.of(assets.get(name)),
                    card -> card.withField("Store", name.startsWith("Ice") ? "North" : "South")
                            .withField("Counted", "2026-06"),
                    Progress.NONE);
        }
        lead.edit(
                List.of(assets.get("Drum label"), assets.get("Field telephone")),
                card -> card.withLicence("CC-BY-4.0"),
                Progress.NONE);
        lead.reservations().reserve(assets.get("Snow tractor"));
    }

    private void note(Library lead, String name, String note) {
        lead.edit(List.of(assets.get(name)), card -> card.withNotes(note), Progress.NONE);
    }
}
