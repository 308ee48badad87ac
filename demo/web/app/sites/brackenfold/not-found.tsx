export default function NotFound() {
  return (
    <main>
      <h1 className="section">There is no such page</h1>
      <p className="lead">
        <a href="/">Back to the home page</a>
      </p>
    </main>
  );
}
