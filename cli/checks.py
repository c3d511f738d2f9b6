PARTS = ("check",)
check = test = generate = bench = None
